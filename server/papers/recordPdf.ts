import { drawFact, drawHead, heading, inColumns, INK, innerWidth, MARGIN, paperOf, rule, words } from './paper'

/** Everything that one page tells of a picture: how it was planned, shot, checked, fused and finished. */
export interface ShootRecord {
  title: string
  subject: string
  headline: string
  /** A JPEG. */
  picture: Buffer
  plan: Fact[]
  run: Fact[]
  /** What the survey said. */
  survey: string[]
  fused: Fact[]
  /** The recipe in sentences. */
  finished: string[]
}

interface Fact {
  label: string
  value: string
}

/** The picture takes so much of the page's height at the most. */
const PICTURE = 0.36
/** More sentences than this would run off the page; the last says how many more there are. */
const MOST_LINES = 7

/** The record of a picture as a PDF of one A4 page. */
export function recordPdf(record: ShootRecord): Promise<Buffer> {
  return paperOf(`${record.title}: record`, (document) => {
    drawHead(document, record)
    const high = PICTURE * document.page.height
    const top = document.y + 2
    document.image(record.picture, MARGIN, top, { fit: [innerWidth(document), high], align: 'center' })
    document.y = top + high + 8
    const facts = (title: string, list: Fact[]) => {
      if (list.length === 0) return
      heading(document, title)
      inColumns(document, list, (fact, x, width) => drawFact(document, fact, x, width))
      rule(document, 0.6)
    }
    const lines = (title: string, list: string[]) => {
      if (list.length === 0) return
      heading(document, title)
      document.fillColor(INK).font('plain').fontSize(9.3)
      const shown = list.length > MOST_LINES ? [...list.slice(0, MOST_LINES - 1), `And ${list.length - MOST_LINES + 1} more.`] : list
      for (const line of shown) document.text(words(line), MARGIN, document.y, { width: innerWidth(document) })
      document.moveDown(0.3)
      rule(document, 0.6)
    }
    facts('Planned', record.plan)
    facts('Shot', record.run)
    lines('Checked', record.survey)
    facts('Fused', record.fused)
    lines('Finished', record.finished)
  })
}
