import { BAR_pitches, BARS, CODE, EDGE_s, LADDER_u, LARGE_dot, rowAt, SMALL_dot } from '@/core/learn/target'
import type { SheetRequest } from '@/schemas'
import { INK, MARGIN, paperOf, QUIET } from './paper'

const POINTS_A_mm = 72 / 25.4

/**
 * The sheet that focus is measured on, in its true size: dots and bars of `pitch_mm`, and a bar of known length to check the print by. What is too
 * long for the paper is cut off at its lower end; the sheet works without it.
 */
export function sheetPdf({ pitch_mm, paper }: SheetRequest): Promise<Buffer> {
  return paperOf(
    `Sheet to measure focus on, dots ${pitch_mm} mm apart`,
    (document) => {
      document.fillColor(INK).font('strong').fontSize(12.5).text(`Focus sheet, dots ${pitch_mm} mm apart`, MARGIN, MARGIN)
      document
        .fillColor(QUIET)
        .font('plain')
        .fontSize(9)
        .text(
          `Print at 100 %, not fitted to the page. Tilt it by about 45° before the camera, both rows of dots upright in the picture. The line at the left is ${
            BAR_pitches * pitch_mm
          } mm long: if yours is not, give the length that you measure.`,
          { width: document.page.width - 2 * MARGIN },
        )
      const pitch = pitch_mm * POINTS_A_mm
      const top = document.y + 10
      const rows = Math.min(2 * EDGE_s, Math.floor((document.page.height - MARGIN - top) / pitch))
      const middle = document.page.width / 2
      const at = (s: number) => top + (s + EDGE_s) * pitch
      document.fillColor('#000')
      for (const [from, to] of BARS) document.rect(middle + from * pitch, top, (to - from) * pitch, rows * pitch)
      document.fill()
      CODE.forEach((large, row) => {
        if (rowAt(row) + EDGE_s > rows - 1) return
        for (const side of [-LADDER_u, LADDER_u]) document.circle(middle + side * pitch, at(rowAt(row)), (large ? LARGE_dot : SMALL_dot) * pitch)
      })
      document.fill()
      const left = Math.max(12, middle - (LADDER_u + 2.5) * pitch)
      const length = BAR_pitches * pitch
      document
        .lineWidth(0.7)
        .strokeColor('#000')
        .moveTo(left, top)
        .lineTo(left, top + length)
      for (const end of [top, top + length]) document.moveTo(left - 3, end).lineTo(left + 3, end)
      document.stroke()
    },
    paper,
  )
}
