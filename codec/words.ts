import path from 'node:path'
import type { Font } from 'fontkit'
import sharp from 'sharp'

/** The font that ships with it: no machine's own fonts are asked for. */
const FONT = path.resolve(/* turbopackIgnore: true */ 'node_modules/@fontsource/source-sans-3/files/source-sans-3-latin-600-normal.woff')

/** Words in white on black as a grey picture of 8 bits, so many px from the foot of its deepest letter to the head of its tallest. */
export async function drawWords(text: string, height_px: number): Promise<{ width: number; height: number; data: Uint8Array }> {
  // Loaded when words are drawn: it takes longer to load than most commands take to start.
  const { openSync } = await import('fontkit')
  const font = openSync(FONT) as Font
  const { glyphs, positions } = font.layout(text)
  const scale = height_px / (font.ascent - font.descent)
  let x = 0
  const shapes = glyphs.map((glyph, k) => {
    const place = `translate(${x + positions[k].xOffset} ${positions[k].yOffset})`
    x += positions[k].xAdvance
    return `<path transform="${place}" d="${glyph.path.toSVG()}"/>`
  })
  const width = Math.max(1, Math.ceil(x * scale))
  // Outlines rise upwards, pictures downwards.
  const turned = `translate(0 ${font.ascent * scale}) scale(${scale} ${-scale})`
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height_px}"><g fill="#fff" transform="${turned}">${shapes.join('')}</g></svg>`
  const { data, info } = await sharp(Buffer.from(svg))
    .flatten({ background: '#000' })
    .toColourspace('b-w')
    .raw()
    .toBuffer({ resolveWithObject: true })
  return { width: info.width, height: info.height, data }
}
