import { drawHead, INK, innerWidth, MARGIN, paperOf, QUIET, words, type Document } from './paper'

/** A frame on a contact sheet: a small JPEG, its number, and what there is to say of it. */
export interface ContactFrame {
  picture: Buffer
  number: number
  file: string
  note: string
  /** Crossed out: it was not used. */
  left: boolean
}

export interface Contact {
  title: string
  subject: string
  headline: string
  frames: ContactFrame[]
  /** Height of the frames for a width of 1. */
  shape: number
}

const ACROSS = 5
const SPACE = 10
const WORDS = 30

/** The frames of a run, small, in the order of their focus: as many A4 pages as it takes. */
export function contactPdf(contact: Contact): Promise<Buffer> {
  return paperOf(`${contact.title}: contact sheet`, (document) => {
    drawHead(document, contact)
    const width = (innerWidth(document) - (ACROSS - 1) * SPACE) / ACROSS
    const height = width * contact.shape
    let top = document.y + 4
    for (const [k, frame] of contact.frames.entries()) {
      const column = k % ACROSS
      if (k > 0 && column === 0) top += height + WORDS + SPACE
      if (top + height + WORDS > document.page.height - MARGIN) {
        document.addPage()
        top = MARGIN
      }
      drawFrame(document, frame, MARGIN + column * (width + SPACE), top, width, height)
    }
  })
}

function drawFrame(
  document: Document,
  { picture, number, file, note, left }: ContactFrame,
  x: number,
  y: number,
  width: number,
  height: number,
): void {
  document.image(picture, x, y, { fit: [width, height], align: 'center', valign: 'center' })
  if (left)
    document
      .moveTo(x, y)
      .lineTo(x + width, y + height)
      .moveTo(x + width, y)
      .lineTo(x, y + height)
      .lineWidth(1.2)
      .strokeColor(INK)
      .stroke()
  const line = { width, height: 10, lineBreak: false, ellipsis: true }
  document
    .fillColor(INK)
    .font('strong')
    .fontSize(8)
    .text(words(`${number}  ${file}`), x, y + height + 3, line)
  document
    .fillColor(QUIET)
    .font('plain')
    .fontSize(7.5)
    .text(words(note), x, y + height + 14, line)
}
