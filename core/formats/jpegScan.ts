/**
 * Whether the compressed data of a sequential JPEG hold exactly the blocks that its header promises. A decoder paints over what
 * it cannot make sense of: bytes that are missing, zeroed or foreign decode into other blocks than were written, so that data are
 * left over at the end or run out before it. Undefined for other kinds (progressive, arithmetic), which are not walked.
 * Source: ITU-T T.81, annexes B and F.
 */
export function jpegDataFit(file: Uint8Array): boolean | undefined {
  const tables: (Table | undefined)[] = []
  let frame: Frame | undefined
  let restart = 0
  let at = 2
  while (at + 4 <= file.length) {
    if (file[at] !== 0xff) return false
    const marker = file[at + 1]
    if (marker === 0xff) {
      at++
      continue
    }
    if (marker === EOI) return frame?.scanned === true
    const length = (file[at + 2] << 8) | file[at + 3]
    const segment = file.subarray(at + 4, at + 2 + length)
    if (marker === SOF0 || marker === SOF1) frame = frameOf(segment)
    else if (OTHER_FRAMES.has(marker)) return undefined
    else if (marker === DHT) readTables(segment, tables)
    else if (marker === DRI) restart = (segment[0] << 8) | segment[1]
    at += 2 + length
    if (marker !== SOS) continue
    const end = frame && walk(file, at, scanOf(segment, frame, tables), restart)
    if (end === undefined) return false
    frame!.scanned = true
    at = end
  }
  // Without an end marker the decoder itself says that the file is cut short.
  return frame?.scanned === true
}

const SOF0 = 0xc0
const SOF1 = 0xc1
const DHT = 0xc4
const EOI = 0xd9
const SOS = 0xda
const DRI = 0xdd
const OTHER_FRAMES = new Set([0xc2, 0xc3, 0xc5, 0xc6, 0xc7, 0xc9, 0xca, 0xcb, 0xcd, 0xce, 0xcf])

const RST0 = 0xd0

/** Bytes that may be left over before a marker: some cameras pad. */
const PADDING = 11

interface Frame {
  width: number
  height: number
  components: { id: number; across: number; down: number }[]
  scanned?: boolean
}

/**
 * What the next 16 bits begin with: in the low bits how many bits code and value have, above them how far it goes on in the block. And the same
 * by fewer bits where the code is no longer, which fits into the nearest cache; 0 where it is.
 */
interface Table {
  whole: Uint16Array
  short: Uint16Array
}

const SHORT_bits = 10
const USED_bits = 6
const USED = (1 << USED_bits) - 1
/** The rest of a block is zero: beyond every place in it, and told apart from a code that is none. */
const ENDS = 128
const NONE = 512

/** Blocks of one unit in their order, each by the tables that it is coded with, and how many units there are. */
interface Scan {
  units: number
  blocks: { dc: Table; ac: Table }[]
}

function frameOf(segment: Uint8Array): Frame {
  const height = (segment[1] << 8) | segment[2]
  const width = (segment[3] << 8) | segment[4]
  const components = Array.from({ length: segment[5] }, (_, k) => {
    const [id, sampling] = segment.subarray(6 + 3 * k)
    return { id, across: sampling >> 4, down: sampling & 15 }
  })
  return { width, height, components }
}

/** Tables that decode a code by one look. */
function readTables(segment: Uint8Array, tables: (Table | undefined)[]): void {
  for (let at = 0; at + 17 <= segment.length;) {
    const which = segment[at]
    const entryOf = which >> 4 === 0 ? dcEntry : acEntry
    const counts = segment.subarray(at + 1, at + 17)
    let symbol = at + 17
    const whole = new Uint16Array(1 << 16).fill(NONE << USED_bits)
    const short = new Uint16Array(1 << SHORT_bits)
    let code = 0
    for (let length = 1; length <= 16; length++) {
      for (let k = 0; k < counts[length - 1]; k++, code++, symbol++) {
        const entry = entryOf(length, segment[symbol])
        const first = code << (16 - length)
        whole.fill(entry, first, first + (1 << (16 - length)))
        if (length <= SHORT_bits) short.fill(entry, first >> (16 - SHORT_bits), (first >> (16 - SHORT_bits)) + (1 << (SHORT_bits - length)))
      }
      code <<= 1
    }
    tables[((which >> 4) << 2) | (which & 3)] = { whole, short }
    at = symbol
  }
}

const dcEntry = (length: number, symbol: number) => (1 << USED_bits) | (length + (symbol & 15))

/** Of a symbol the high four bits tell how many zeros come before its value; without a value the block ends, but after sixteen zeros. */
function acEntry(length: number, symbol: number): number {
  const [zeros, size] = [symbol >> 4, symbol & 15]
  const on = size === 0 && zeros !== 15 ? ENDS : zeros + 1
  return (on << USED_bits) | (length + size)
}

function scanOf(segment: Uint8Array, { width, height, components }: Frame, tables: (Table | undefined)[]): Scan | undefined {
  const chosen = Array.from({ length: segment[0] }, (_, k) => {
    const [id, coded] = segment.subarray(1 + 2 * k)
    const component = components.find((other) => other.id === id)
    const [dc, ac] = [tables[(coded >> 4) & 3], tables[4 | (coded & 3)]]
    return component && dc && ac ? { ...component, dc, ac } : undefined
  })
  if (chosen.some((component) => component === undefined)) return undefined
  const known = chosen as NonNullable<(typeof chosen)[number]>[]
  const most = { across: Math.max(...components.map(({ across }) => across)), down: Math.max(...components.map(({ down }) => down)) }
  const [only] = known
  if (known.length === 1) {
    // Alone, a component is written without the blocks that fill up the last units.
    const wide = Math.ceil(Math.ceil((width * only.across) / most.across) / 8)
    const high = Math.ceil(Math.ceil((height * only.down) / most.down) / 8)
    return { units: wide * high, blocks: [only] }
  }
  const units = Math.ceil(width / (8 * most.across)) * Math.ceil(height / (8 * most.down))
  return { units, blocks: known.flatMap((component) => Array<(typeof known)[number]>(component.across * component.down).fill(component)) }
}

/** Decodes no more than where each block ends. Answers where the next marker is; undefined where the data do not fit. */
function walk(file: Uint8Array, start: number, scan: Scan | undefined, restart: number): number | undefined {
  if (!scan) return undefined
  let from = start
  for (let unit = 0; unit < scan.units;) {
    const { data, length, end } = unstuffed(file, from)
    const units = restart > 0 ? Math.min(restart, scan.units - unit) : scan.units
    const read_bits = walkUnits(data, scan.blocks, units)
    // More was read than there is, or less.
    if (read_bits === undefined || read_bits > 8 * length || 8 * length - read_bits >= 8 * (PADDING + 1)) return undefined
    unit += units
    from = end
    if (unit === scan.units) break
    if ((file[end + 1] & 0xf8) !== RST0) return undefined
    from += 2
  }
  return from
}

/** Walks over so many units; answers how many bits they have, which may be more than there are, or undefined where a code is none. */
function walkUnits(data: Uint8Array, blocks: Scan['blocks'], units: number): number | undefined {
  const most_bits = 8 * (data.length - BEHIND)
  let at = 0
  for (let unit = 0; unit < units; unit++) {
    for (const { dc, ac } of blocks) {
      let k = 0
      for (let { whole, short } = dc; k < 64; { whole, short } = ac) {
        const byte = at >> 3
        const next = (((data[byte] << 16) | (data[byte + 1] << 8) | data[byte + 2]) >> (8 - (at & 7))) & 0xffff
        const entry = short[next >> (16 - SHORT_bits)] || whole[next]
        at += entry & USED
        k += entry >> USED_bits
      }
      // A code that is none, or a value behind the last place.
      if (k > 64 && (k < ENDS || k >= NONE)) return undefined
      if (at > most_bits) return at
    }
  }
  return at
}

/** So many bytes of ones stand behind the data, as decoders read there: no block is longer. */
const BEHIND = 256

/** Compressed data up to the next marker, zeros behind bytes of ones taken out; and where that marker is. */
function unstuffed(file: Uint8Array, from: number): { data: Uint8Array; length: number; end: number } {
  const end = Math.max(from, nextMarker(file, from))
  const data = new Uint8Array(end - from + BEHIND)
  let length = 0
  for (let at = from; at < end;) {
    const ones = file.indexOf(0xff, at)
    const until = ones < 0 || ones >= end ? end : ones + 1
    data.set(file.subarray(at, until), length)
    length += until - at
    at = until + Number(until < end)
  }
  data.fill(0xff, length)
  return { data: data.subarray(0, length + BEHIND), length, end }
}

/** Where the next marker is, over stuffed bytes. */
function nextMarker(file: Uint8Array, from: number): number {
  for (let at = from; ; at += 2) {
    at = file.indexOf(0xff, at)
    if (at < 0 || at + 1 >= file.length) return file.length
    if (file[at + 1] !== 0) return at
  }
}
