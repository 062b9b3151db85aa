import { spawnSync } from 'node:child_process'
import { readdirSync } from 'node:fs'
import path from 'node:path'
import { crc32, deflateSync } from 'node:zlib'
import fc from 'fast-check'
import sharp from 'sharp'
import { picture, TestServer } from './testServer'

let server: TestServer
let runId: number
beforeEach(async () => {
  server = await TestServer.start()
  runId = await server.newRun()
})
afterEach(() => server.stop())

const bring = (contents: Buffer, name = 'a.png') => server.add(runId, name, contents)

/** Nothing of a refused file is kept, and the next good one is taken. */
async function stillWell() {
  expect(readdirSync(server.context.store.folders.incoming())).toEqual([])
  await server.add(await server.newRun(), 'good.jpg', await picture())
}

function chunk(kind: string, contents: Buffer): Buffer {
  const body = Buffer.concat([Buffer.from(kind, 'latin1'), contents])
  const [length, check] = [Buffer.alloc(4), Buffer.alloc(4)]
  length.writeUInt32BE(contents.length)
  check.writeUInt32BE(crc32(body))
  return Buffer.concat([length, body, check])
}

/** A grey PNG that claims to be so large, with what it holds, whatever that is. */
function png(width: number, height: number, rows: Buffer, ...more: Buffer[]): Buffer {
  const head = Buffer.alloc(13)
  head.writeUInt32BE(width, 0)
  head.writeUInt32BE(height, 4)
  head.set([8, 0, 0, 0, 0], 8)
  const signature = Buffer.from([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10])
  return Buffer.concat([signature, chunk('IHDR', head), ...more, chunk('IDAT', deflateSync(rows)), chunk('IEND', Buffer.alloc(0))])
}

const empty = (width: number, height: number) => Buffer.alloc((width + 1) * height)

test('a picture of 30,000 × 30,000 px is refused by its header, before anything is unfolded', async () => {
  await expect(bring(png(30_000, 30_000, empty(100, 10)))).rejects.toMatchObject({ code: 'picture.tooLarge' })
  await stillWell()
})

test('a small file that unfolds to 200 megapixels is taken for what it is, and too large to fuse', async () => {
  const bomb = png(20_000, 10_000, empty(20_000, 10_000))
  expect(bomb.length).toBeLessThan(400_000)
  await bring(bomb)
  await bring(Buffer.concat([bomb, Buffer.from('another')]), 'b.png')
  const { status, stderr } = spawnSync(
    process.execPath,
    ['dist/nitidus.mjs', 'fuse', server.context.store.folders.frames(runId), '--out', path.join(server.folder, 'x.png')],
    { encoding: 'utf8' },
  )
  expect(status).toBe(2)
  expect(stderr).toContain('[series.tooLarge]')
})

test('rows that are missing, or more than there should be, are damage or do no harm', async () => {
  await expect(bring(png(600, 400, empty(600, 100)))).rejects.toMatchObject({ code: 'picture.damaged' })
  await bring(png(60, 40, empty(60, 4000)), 'more.png')
  await stillWell()
})

test('no side at all, a side of minus one, and chunks that claim more than there is', async () => {
  await expect(bring(png(0, 40, empty(1, 1)))).rejects.toMatchObject({ code: expect.stringMatching(/^picture\./) })
  await expect(bring(png(2 ** 32 - 1, 40, empty(1, 1)))).rejects.toMatchObject({ code: expect.stringMatching(/^picture\./) })
  const long = png(60, 40, empty(60, 40))
  long.writeUInt32BE(0x7fffffff, 33)
  await expect(bring(long)).rejects.toMatchObject({ code: expect.stringMatching(/^picture\./) })
  await stillWell()
})

test('a JPEG whose header claims other sizes than it holds does not take the server down', async () => {
  const jpeg = await picture(120, 80)
  const frame = jpeg.indexOf(Buffer.from([0xff, 0xc0])) + 5
  for (const [k, [height, width]] of [
    [65_535, 65_535],
    [0, 120],
    [80, 4000],
    [3, 3],
  ].entries()) {
    const crafted = Buffer.from(jpeg)
    crafted.writeUInt16BE(height, frame)
    crafted.writeUInt16BE(width, frame + 2)
    // Whether it is refused or read as far as it goes: one sentence or one frame, nothing else.
    await server.add(await server.newRun(), `${k}.jpg`, crafted).catch((error: Error) => expect(error.message).toMatch(/^\d\.jpg .*\.$/))
  }
  await stillWell()
})

test('a TIFF whose directories go round in a circle comes to an end', async () => {
  const tiff = await sharp({ create: { width: 30, height: 20, channels: 3, background: '#456' } })
    .tiff()
    .toBuffer()
  const first = tiff.readUInt32LE(4)
  tiff.writeUInt32LE(first, first + 2 + 12 * tiff.readUInt16LE(first))
  await server.add(runId, 'round.tif', tiff).catch((error: Error) => expect(error.message).toContain('round.tif'))
  await stillWell()
})

test('other formats under the name of a picture are refused, whatever they ask for', async () => {
  const drawing = '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><image href="file:///etc/passwd" width="9" height="9"/></svg>'
  await expect(bring(Buffer.from(drawing))).rejects.toMatchObject({ code: expect.stringMatching(/^picture\./) })
  const gif = await sharp({ create: { width: 9, height: 9, channels: 3, background: '#456' } })
    .gif()
    .toBuffer()
  await expect(bring(gif)).rejects.toMatchObject({ code: 'picture.format' })
  await stillWell()
})

test('EXIF of any bytes is left aside, and the frame is taken', async () => {
  const jpeg = await picture()
  let count = 0
  await fc.assert(
    fc.asyncProperty(fc.uint8Array({ maxLength: 300 }), fc.boolean(), async (bytes, headed) => {
      const contents = Buffer.concat([Buffer.from('Exif\0\0', 'latin1'), Buffer.from(headed ? 'II*\0\x08\0\0\0' : '', 'latin1'), Buffer.from(bytes)])
      const segment = Buffer.concat([Buffer.from([0xff, 0xe1, (contents.length + 2) >> 8, (contents.length + 2) & 255]), contents])
      const crafted = Buffer.concat([jpeg.subarray(0, 2), segment, jpeg.subarray(2)])
      await server.add(await server.newRun(), `e${count++}.jpg`, crafted)
    }),
    { numRuns: 40 },
  )
  const thousand = Buffer.concat([jpeg, Buffer.alloc(1000)])
  await server.add(await server.newRun(), 'tail.jpg', thousand)
})
