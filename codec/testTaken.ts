import { spawnSync } from 'node:child_process'

/** Looks with a reader that is not ours at what the tests' pictures were taken with; `digits` of the exposure are compared. */
export function expectTaken(file: string, digits: number): void {
  const [tags] = JSON.parse(spawnSync('exiftool', ['-j', '-n', file], { encoding: 'utf8' }).stdout)
  expect(tags).toMatchObject({
    Model: 'Body A',
    LensModel: 'Macro 100',
    FNumber: 5.6,
    ISO: 200,
    FocalLength: 100,
    DateTimeOriginal: '2026:05:11 09:30:04',
  })
  expect(tags.ExposureTime).toBeCloseTo(1 / 13, digits)
}
