import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { createPicture, decoded, type Picture } from '@/core/raster'
import { countAt, sensorPlaces, type FineLight } from '@/core/simulate'
import type { Capture } from '@/core/develop'
import { RawReader, readFacts, readSamples, writeRaw } from '../..'
import { mergedFile } from '.'

/** Of the sensor, px. */
const [WIDTH, HEIGHT] = [240, 160]
const SENSOR = { fullWell: 60_000, readNoise: 3, exposure: 1 }
const WHITE = 1.25
const taken = { body: 'Body A', taken_at: '2026-05-11T09:30:16.000Z', exposure_s: 0.125, fNumber: 5.6, focalLength_mm: 100, iso: 100 }

let folder: string
let reader: RawReader
const at = (name: string) => path.join(folder, name)
beforeAll(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'captures-'))
  reader = new RawReader(path.resolve('dist/raw.mjs'))
})
afterAll(async () => {
  await reader.close()
  rmSync(folder, { recursive: true })
})

/** Grey light at twice the sensor's pixels: waves of many lengths, as fine as the lens lets through; what it shows at `moved_px` farther to the right. */
function light(moved_px = 0): FineLight {
  const plane = new Float32Array(4 * WIDTH * HEIGHT)
  for (let y = 0, i = 0; y < 2 * HEIGHT; y++)
    for (let x = 0; x < 2 * WIDTH; x++, i++) {
      let sum = 0.45
      // Finer towards the right, where one wave is less than three pixels of the sensor: about the finest that its pixels let through.
      const fine = 0.15 + (0.45 * x) / (2 * WIDTH)
      for (let k = 0; k < 6; k++) sum += 0.05 * Math.sin(fine * ((x - moved_px) * Math.cos(k) + y * Math.sin(k)) + k)
      plane[i] = WHITE * sum
    }
  return { width: 2 * WIDTH, height: 2 * HEIGHT, planes: [plane, plane, plane], finer: 2 }
}

async function shot(name: string, count: number, seen: (k: number) => FineLight = () => light()): Promise<Capture[]> {
  const preview: Picture = createPicture(WIDTH, HEIGHT)
  return Promise.all(
    sensorPlaces(count).map(async ([x, y], k) => {
      const file = at(`${name}_${k}.dng`)
      await writeRaw(file, countAt(seen(k), [x, y], SENSOR, 100 + k), preview, taken, 'test')
      return { file, x_px: x / 2, y_px: y / 2 }
    }),
  )
}

/** Root mean square of what a developed picture differs by from the light, in the right half, on 0 … 1; and of its colour. */
async function off(file: string): Promise<{ grey: number; colour: number }> {
  const { samples, width, height } = await readSamples(file)
  const finer = width / WIDTH
  const { planes } = light()
  let [grey, colour, count] = [0, 0, 0]
  for (let y = 8; y < height - 8; y++)
    for (let x = width / 2; x < width - 8; x++, count++) {
      const [red, green, blue] = [0, 1, 2].map((c) => decoded((samples as Uint16Array)[3 * (y * width + x) + c] / 65_535))
      grey += (green - planes[0][((y * 2) / finer) * 2 * WIDTH + (x * 2) / finer] / WHITE) ** 2
      colour += ((red - green) ** 2 + (blue - green) ** 2) / 2
    }
  return { grey: Math.sqrt(grey / count), colour: Math.sqrt(colour / count) }
}

/** Mean difference, on 0 … 1, of a picture twice as wide and high, two by two pixels as one, from another. */
function meanDifference(large: ArrayLike<number>, small: ArrayLike<number>): number {
  let sum = 0
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++)
      for (let c = 0; c < 3; c++) {
        const value = (dx: number, dy: number) => large[3 * ((2 * y + dy) * 2 * WIDTH + 2 * x + dx) + c]
        sum += Math.abs((value(0, 0) + value(1, 0) + value(0, 1) + value(1, 1)) / 4 - small[3 * (y * WIDTH + x) + c])
      }
  return sum / (3 * WIDTH * HEIGHT * 65_535)
}

test('where the sensor stood is read from the captures themselves', async () => {
  const captures = await shot('places', 16)
  const offsets = await reader.offsets(captures.map(({ file }) => file))
  offsets.forEach(({ x_px, y_px, otherwise_px }, k) => {
    expect(Math.hypot(x_px - captures[k].x_px, y_px - captures[k].y_px)).toBeLessThan(0.1)
    expect(otherwise_px).toBeLessThan(0.15)
  })
})

test('four captures have no false colour, sixteen show twice the pixels, each with less error than one', async () => {
  const four = await shot('four', 4)
  const sixteen = await shot('sixteen', 16)
  const { development } = await reader.look(four[0].file)
  await reader.develop(four[0].file, at('one.tif'), development)
  expect(await reader.merge(four, at('four.tif'), development, 'four')).toEqual({ captures: 4, used: 4, moved_percent: 0 })
  expect(await reader.merge(sixteen, at('sixteen.tif'), development, 'sixteen')).toEqual({ captures: 16, used: 16, moved_percent: 0 })
  expect(await readFacts(at('four.tif'))).toMatchObject({ width: WIDTH, height: HEIGHT, bits: 16 })
  expect(await readFacts(at('sixteen.tif'))).toMatchObject({ width: 2 * WIDTH, height: 2 * HEIGHT, bits: 16 })
  const [one, merged, finer] = await Promise.all(['one.tif', 'four.tif', 'sixteen.tif'].map((name) => off(at(name))))
  expect(merged.colour).toBeLessThan(one.colour / 2)
  expect(merged.grey).toBeLessThan(one.grey / 2)
  // What is left is the noise of the photons.
  for (const { grey, colour } of [merged, finer]) expect(Math.max(grey, colour)).toBeLessThan(0.008)
})

test('where something moved between captures one of them is used, as large as all together, and it is told', async () => {
  for (const [count, finer] of [
    [4, 1],
    [16, 2],
  ]) {
    const captures = await shot(`moved${count}`, count, (k) => light(k >= count / 2 ? 3 : 0))
    const { development } = await reader.look(captures[0].file)
    const out = at(`moved${count}.tif`)
    await reader.developFrame({ file: captures[0].file, development, captures }, out, 'moved')
    const merged = JSON.parse(readFileSync(mergedFile(out), 'utf8'))
    expect(merged).toMatchObject({ captures: count, used: 1 })
    expect(merged.moved_percent).toBeGreaterThan(10)
    expect(await readFacts(out)).toMatchObject({ width: finer * WIDTH, height: finer * HEIGHT })
    // The first capture, not a mixture.
    await reader.develop(captures[0].file, at('first.tif'), development)
    const [made, first] = (await Promise.all([out, at('first.tif')].map((file) => readSamples(file)))).map(({ samples }) => samples)
    if (finer === 1) expect(made).toEqual(first)
    else expect(meanDifference(made, first)).toBeLessThan(0.02)
  }
})

test('a set that broke off, and one of which a file is damaged', async () => {
  const captures = await shot('broken', 4)
  const { development } = await reader.look(captures[0].file)
  expect(await reader.merge(captures.slice(0, 2), at('two.tif'), development, 'two')).toEqual({ captures: 2, used: 1, moved_percent: 0 })
  writeFileSync(captures[2].file, 'no picture')
  await expect(reader.merge(captures, at('none.tif'), development, 'frame 7')).rejects.toMatchObject({
    code: 'raw.unreadable',
    message: expect.stringContaining('frame 7'),
  })
})
