/**
 * Whether the compressed data of a sequential JPEG hold exactly the blocks that its header promises. A decoder paints over what
 * it cannot make sense of: bytes that are missing, zeroed or foreign decode into other blocks than were written, so that data are
 * left over at the end or run out before it. Undefined for other kinds (progressive, arithmetic), which are not walked.
 * Source: ITU-T T.81, annexes B and F.
 */
export function jpegDataFit(file: Uint8Array): boolean | undefined {
  const tables: (Uint16Array | undefined)[] = []
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

/** Bytes that may be left over before a marker: some cameras pad. */
const PADDING = 8

interface Frame {
  width: number
  height: number
  components: { id: number; across: number; down: number }[]
  scanned?: boolean
}

/** Blocks of one unit in their order, each by the tables that it is coded with, and how many units there are. */
interface Scan {
  units: number
  blocks: { dc: Uint16Array; ac: Uint16Array }[]
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

/** A table of 16 bits to length and symbol, so that one look decodes a code. */
function readTables(segment: Uint8Array, tables: (Uint16Array | undefined)[]): void {
  for (let at = 0; at + 17 <= segment.length;) {
    const which = segment[at]
    const counts = segment.subarray(at + 1, at + 17)
    let symbol = at + 17
    const table = new Uint16Array(65_536)
    let code = 0
    for (let length = 1; length <= 16; length++) {
      for (let k = 0; k < counts[length - 1]; k++, code++, symbol++) {
        const first = code << (16 - length)
        table.fill((length << 8) | segment[symbol], first, first + (1 << (16 - length)))
      }
      code <<= 1
    }
    tables[((which >> 4) << 2) | (which & 3)] = table
    at = symbol
  }
}

function scanOf(segment: Uint8Array, { width, height, components }: Frame, tables: (Uint16Array | undefined)[]): Scan | undefined {
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
  const { units, blocks } = scan
  let at = start
  let buffer = 0
  let bits = 0
  let beyond = 0
  const refill = () => {
    while (bits <= 16) {
      let byte = at < file.length ? file[at] : 0xff
      if (byte === 0xff) {
        // A marker, or the file's end: ones are read beyond it, as decoders do.
        if (file[at + 1] === 0) at += 2
        else {
          beyond += 8
          byte = 0xff
        }
      } else at++
      buffer = (buffer << 8) | byte
      bits += 8
    }
  }
  for (let unit = 0; unit < units; unit++) {
    if (restart > 0 && unit > 0 && unit % restart === 0) {
      const next = nextMarker(file, at)
      if (next - at > PADDING || beyond - bits > 0 || (file[next + 1] & 0xf8) !== 0xd0) return undefined
      at = next + 2
      buffer = bits = beyond = 0
    }
    for (const { dc, ac } of blocks) {
      for (let k = 0; k < 64;) {
        refill()
        const entry = (k === 0 ? dc : ac)[(buffer >>> (bits - 16)) & 0xffff]
        const size = entry & 15
        const used = (entry >> 8) + size
        if (entry === 0) return undefined
        if (used > bits) {
          // Code and value are longer than what was looked at.
          bits -= entry >> 8
          refill()
          bits -= size
        } else bits -= used
        if (k === 0) k = 1
        else if (size === 0 && (entry & 0xf0) !== 0xf0) break
        else k += ((entry >> 4) & 15) + 1
        if (k > 64) return undefined
      }
    }
    // More was read than there is.
    if (beyond > bits) return undefined
  }
  const end = nextMarker(file, at)
  return end - at > PADDING ? undefined : end
}

/** Where the next marker is, over stuffed bytes. */
function nextMarker(file: Uint8Array, from: number): number {
  let at = from
  while (at + 1 < file.length && !(file[at] === 0xff && file[at + 1] !== 0)) at++
  return at
}
