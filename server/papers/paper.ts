import path from 'node:path'
import PDFDocument from 'pdfkit'
import type { PaperSize } from '@/schemas'

export type Document = PDFKit.PDFDocument

const FONTS = 'node_modules/@fontsource/source-sans-3/files'
export const INK = '#1d1d1b'
export const QUIET = '#5f5e5a'
export const MARGIN = 34
export const GAP = 18

/** A PDF in our own face, drawn by `draw`. */
export function paperOf(title: string, draw: (document: Document) => void, size: PaperSize = 'A4'): Promise<Buffer> {
  const document = new PDFDocument({ size, margin: MARGIN, info: { Title: title, Creator: 'Nitidus' } })
  document.registerFont('plain', path.resolve(/* turbopackIgnore: true */ FONTS, 'source-sans-3-latin-400-normal.woff'))
  document.registerFont('strong', path.resolve(/* turbopackIgnore: true */ FONTS, 'source-sans-3-latin-600-normal.woff'))
  const chunks: Buffer[] = []
  document.on('data', (chunk: Buffer) => chunks.push(chunk))
  const done = new Promise<Buffer>((resolve) => document.on('end', () => resolve(Buffer.concat(chunks))))
  draw(document)
  document.end()
  return done
}

export const innerWidth = ({ page }: Document): number => page.width - 2 * MARGIN
export const columnWidth = (document: Document): number => (innerWidth(document) - GAP) / 2

/** The font's subset has no arrows and no infinity. */
export function words(text: string): string {
  return text.replaceAll('∞', 'infinity').replaceAll('→', '>')
}

/** Title, subject and a line that says what the page is. */
export function drawHead(document: Document, { title, subject, headline }: { title: string; subject: string; headline: string }): void {
  document.fillColor(INK).font('strong').fontSize(17).text(words(title), MARGIN, MARGIN)
  if (subject) document.fillColor(QUIET).font('plain').fontSize(9.5).text(words(subject))
  document.moveDown(0.2).fillColor(INK).font('strong').fontSize(12.5).text(words(headline))
  document.moveDown(0.3)
  rule(document, 1.4)
}

/** A label and its value, one over the other. */
export function drawFact(document: Document, { label, value }: { label: string; value: string }, x: number, width: number): void {
  document.fillColor(QUIET).font('plain').fontSize(7.8).text(label, x, document.y, { width })
  document.fillColor(INK).fontSize(9.3).text(words(value), x, document.y, { width }).moveDown(0.25)
}

/** Items in two columns, filled downwards. */
export function inColumns<T>(document: Document, items: T[], draw: (item: T, x: number, width: number) => void): void {
  const top = document.y
  const width = columnWidth(document)
  const half = Math.ceil(items.length / 2)
  let lowest = top
  for (const [n, part] of [items.slice(0, half), items.slice(half)].entries()) {
    document.y = top
    for (const item of part) draw(item, MARGIN + n * (width + GAP), width)
    lowest = Math.max(lowest, document.y)
  }
  document.y = lowest
}

export function heading(document: Document, text: string, x = MARGIN): void {
  document
    .fillColor(INK)
    .font('strong')
    .fontSize(10)
    .text(text, x, document.y, { width: columnWidth(document) })
}

export function rule(document: Document, weight: number): void {
  document
    .moveTo(MARGIN, document.y)
    .lineTo(document.page.width - MARGIN, document.y)
    .lineWidth(weight)
    .strokeColor(INK)
    .stroke()
  document.y += 6
}
