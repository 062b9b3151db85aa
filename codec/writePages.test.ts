import { execFileSync } from 'node:child_process'
import { closeSync, ftruncateSync, mkdtempSync, openSync, readdirSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import sharp from 'sharp'
import { writePages } from '.'

let folder: string
const at = (name: string) => path.join(folder, name)
beforeEach(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'pages-'))
})
afterEach(() => rmSync(folder, { recursive: true }))

/** A file that is said to be so long; nothing of it is on the disk. */
function long(name: string, bytes: number): string {
  const file = openSync(at(name), 'w')
  ftruncateSync(file, bytes)
  closeSync(file)
  return at(name)
}

test('layers that cannot fit are refused before the first is read, and nothing is left behind', async () => {
  const layers = [long('a.png', 4e9), long('b.png', 3e9)].map((file, k) => ({ name: `Layer ${k}`, file }))
  await expect(writePages(at('out.tif'), layers, 16, {})).rejects.toMatchObject({ code: 'finish.pagesSize' })
  expect(readdirSync(folder).sort()).toEqual(['a.png', 'b.png'])
})

test('pages follow each other under their names, with their transparency, in another reader', async () => {
  const COLOURS = ['#ff0000', '#00ff0080', '#0000ff00']
  const layers = await Promise.all(
    COLOURS.map(async (background, k) => {
      const file = at(`${k}.png`)
      await sharp({ create: { width: 20, height: 12, channels: 4, background } })
        .png()
        .toFile(file)
      return { name: ['Finished', 'As it was fused', 'frame_001.jpg'][k], file }
    }),
  )
  await writePages(at('out.tif'), layers, 8, { software: 'Nitidus' })
  const script = `
import json
from PIL import Image, ImageSequence
print(json.dumps([[page.mode, page.size, page.getpixel((10, 6)), page.tag_v2.get(285)] for page in ImageSequence.Iterator(Image.open(${JSON.stringify(at('out.tif'))}))]))
`
  const pages = JSON.parse(execFileSync('/usr/bin/python3', ['-c', script], { encoding: 'utf8' })) as [string, number[], number[], string][]
  expect(pages.map(([mode, size, , name]) => [mode, size, name])).toEqual(layers.map(({ name }) => ['RGBA', [20, 12], name]))
  expect(pages.map(([, , [, , , alpha]]) => alpha)).toEqual([255, 128, 0])
  expect(pages[0][2].slice(0, 3)).toEqual([255, 0, 0])
})
