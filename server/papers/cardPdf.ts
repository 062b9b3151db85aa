import type { RunCard } from '@/core/sheet'
import {
  columnWidth,
  drawFact,
  drawHead,
  GAP,
  heading,
  inColumns,
  INK,
  innerWidth,
  MARGIN,
  paperOf,
  QUIET,
  rule,
  words,
  type Document,
} from './paper'

const ROW_MOST = 15
/** Below this, in points, a row can no longer be read and ticked; further positions go on another page. */
const ROW_LEAST = 8.6
const HEAD = 20

/** A run card as a PDF of one A4 page, as far as the number of positions allows. */
export function cardPdf(card: RunCard): Promise<Buffer> {
  return paperOf(`${card.title}: run card`, (document) => {
    drawHead(document, card)
    drawSettings(document, card)
    drawLists(document, card)
    drawPositions(document, card)
  })
}

/** Labels and values in two columns, filled downwards. */
function drawSettings(document: Document, { settings }: RunCard): void {
  inColumns(document, settings, (fact, x, width) => drawFact(document, fact, x, width))
  rule(document, 0.6)
}

function drawLists(document: Document, { checklist, how, cautions }: RunCard): void {
  const top = document.y
  const width = columnWidth(document)
  heading(document, 'Before the first frame', MARGIN)
  for (const line of checklist) {
    box(document, MARGIN, document.y + 1.4)
    document
      .fillColor(INK)
      .font('plain')
      .fontSize(9.3)
      .text(words(line), MARGIN + 13, document.y, { width: width - 13 })
  }
  const left = document.y
  const x = MARGIN + width + GAP
  document.y = top
  heading(document, how.title, x)
  document.fillColor(INK).font('plain').fontSize(9.3)
  for (const [k, step] of how.steps.entries()) document.text(words(`${k + 1}  ${step}`), x, document.y, { width })
  document.moveDown(0.5)
  if (cautions.length > 0) heading(document, 'Watch out', x)
  for (const line of cautions) document.fillColor(INK).font('plain').fontSize(9.3).text(words(line), x, document.y, { width }).moveDown(0.15)
  document.y = Math.max(left, document.y) + 6
  rule(document, 0.6)
}

/** Ways to set the positions: blocks side by side, and how many of the columns each has room for. */
const LAYOUTS = [
  { blocks: 1, cells: 9, row: ROW_MOST },
  { blocks: 2, cells: 9, row: ROW_LEAST },
  { blocks: 4, cells: 1, row: ROW_LEAST },
]

/** The positions, each with a box to tick: in full where there is room, else the mover's reading alone; then on further pages. */
function drawPositions(document: Document, { positions }: RunCard): void {
  const { columns, rows } = positions
  const bottom = document.page.height - MARGIN
  const room = bottom - document.y - HEAD
  const layout = LAYOUTS.find(({ blocks, row }) => Math.ceil(rows.length / blocks) * row <= room) ?? LAYOUTS.at(-1)!
  const { blocks, cells: shown } = layout
  const height = Math.min(ROW_MOST, Math.max(ROW_LEAST, room / Math.ceil(rows.length / blocks)))
  const width = (innerWidth(document) - (blocks - 1) * GAP) / blocks
  for (let next = 0; next < rows.length;) {
    if (next > 0) document.addPage()
    const top = next > 0 ? MARGIN : document.y
    const perBlock = Math.min(Math.floor((bottom - top - HEAD) / height + 1e-6), Math.ceil((rows.length - next) / blocks))
    for (let block = 0; block < blocks && next < rows.length; block++) {
      const part = rows.slice(next, next + perBlock).map(({ cells }, k) => [String(next + k + 1), ...cells.slice(0, shown)])
      drawBlock(document, columns.slice(0, shown), part, { x: MARGIN + block * (width + GAP), y: top, width, height })
      next += part.length
    }
  }
}

interface Place {
  x: number
  y: number
  width: number
  height: number
}

function drawBlock(document: Document, columns: string[], rows: string[][], { x, y, width, height }: Place): void {
  const size = Math.min(9.3, height * 0.72)
  const first = 24
  const cell = (width - first - 20) / columns.length
  const at = (k: number) => (k === 0 ? x : x + first + (k - 1) * cell)
  const wide = (k: number) => (k === 0 ? first - 4 : cell - 5)
  document.fillColor(QUIET).font('plain').fontSize(7.2)
  for (const [k, title] of ['Shot', ...columns].entries()) document.text(words(title), at(k), y, { width: wide(k), align: 'right', height: 18 })
  document.fillColor(INK).fontSize(size)
  for (const [n, cells] of rows.entries()) {
    const line = y + HEAD + n * height
    for (const [k, text] of cells.entries())
      document.text(words(text), at(k), line, { width: wide(k), align: 'right', lineBreak: false, ellipsis: true, height: size * 1.3 })
    box(document, x + width - 12, line + (size - 8) / 2 + 1)
    document
      .moveTo(x, line + height - 1.5)
      .lineTo(x + width, line + height - 1.5)
      .lineWidth(0.25)
      .strokeColor('#bbbbbb')
      .stroke()
  }
  document.y = y + HEAD + rows.length * height
}

function box(document: Document, x: number, y: number): void {
  document.rect(x, y, 7.5, 7.5).lineWidth(0.7).strokeColor(INK).stroke()
}
