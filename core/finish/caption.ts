import type { Canvas, Tools } from './canvas'
import type { Step, StepOf } from './recipe'

/** What a caption may ask for of the picture that it stands under, as `{title}`; what is not known leaves nothing behind. */
export const CAPTION_FACTS = ['title', 'subject', 'date', 'magnification', 'depth', 'lens', 'aperture', 'frames', 'style'] as const
export type CaptionFact = (typeof CAPTION_FACTS)[number]
export type CaptionFacts = Partial<Record<CaptionFact, string>>

/** Parts of the picture's shorter side: height of a line, room around it and at the sides. */
const [LINE, AROUND, ASIDE] = [1 / 34, 1 / 60, 1 / 30]
/** Of a line's height a letter is so wide, about: longer lines are broken, whatever draws them. */
const LETTER = 0.42
const TONES = { light: [0.95, 0.1], dark: [0.08, 0.92] }

/** A text with its facts filled in. Lines that are left with nothing but marks between facts go. */
export function filledCaption(text: string, facts: CaptionFacts): string {
  return text
    .split('\n')
    .map((line) => {
      const asked = line.match(/\{\w+\}/g) ?? []
      const known = asked.filter((name) => facts[name.slice(1, -1) as CaptionFact])
      if (asked.length > 0 && known.length === 0) return ''
      return line
        .replace(/\{(\w+)\}/g, (_, name: CaptionFact) => facts[name] ?? '')
        .replace(/^[\s,·;–-]+|[\s,·;–-]+$/g, '')
        .replace(/([,·;]\s*)+([,·;])/g, '$2')
        .replace(/\s{2,}/g, ' ')
    })
    .filter((line) => line.trim() !== '')
    .join('\n')
}

/** Steps with what is known filled into their captions; one that nothing is left of goes. */
export function withFacts(steps: Step[], facts: CaptionFacts): Step[] {
  return steps.flatMap<Step>((step): Step[] => {
    if (step.do !== 'caption') return [step]
    const text = filledCaption(step.text, facts)
    return text === '' ? [] : [{ ...step, text }]
  })
}

interface Layout {
  lines: string[]
  line_px: number
  around_px: number
  aside_px: number
}

/** The lines as they stand under a picture of a size, broken between words where they would be too long. */
function layoutOf(text: string, width: number, height: number): Layout {
  const short = Math.min(width, height)
  const line_px = Math.max(8, Math.round(LINE * short))
  const aside_px = Math.round(ASIDE * short)
  const most = Math.max(4, Math.floor((width - 2 * aside_px) / (LETTER * line_px)))
  const lines = text.split('\n').flatMap((line) => {
    const broken = ['']
    for (const word of line.split(' ')) {
      const last = broken[broken.length - 1]
      if (last !== '' && last.length + 1 + word.length > most) broken.push(word)
      else broken[broken.length - 1] = last === '' ? word : `${last} ${word}`
    }
    return broken
  })
  return { lines, line_px, around_px: Math.round(AROUND * short), aside_px }
}

/** How high the strip is under a picture of a size. */
export function captionHeight({ text }: { text: string }, width: number, height: number): number {
  const { lines, line_px, around_px } = layoutOf(text, width, height)
  return 2 * around_px + lines.length * line_px
}

/** Sets the words in a strip beneath the picture, which becomes so much higher. */
export async function drawCaption(canvas: Canvas, step: StepOf<'caption'>, tools: Tools): Promise<Canvas> {
  const { width, height } = canvas
  const strip = captionHeight(step, width, height)
  const { lines, line_px, around_px, aside_px: aside } = layoutOf(step.text, width, height)
  const [paper, ink] = TONES[step.tone].map((part) => part * 65535)
  const samples = new Uint16Array(3 * width * (height + strip))
  samples.set(canvas.samples)
  samples.fill(Math.round(paper), canvas.samples.length)
  for (const [k, line] of lines.entries()) {
    if (line.trim() === '') continue
    const words = await fitting(line, line_px, width - 2 * aside, tools)
    const top = height + around_px + k * line_px + ((line_px - words.height) >> 1)
    for (let v = 0; v < words.height; v++)
      for (let u = 0; u < Math.min(words.width, width - aside); u++) {
        const cover = words.data[v * words.width + u] / 255
        const at = 3 * ((top + v) * width + aside + u)
        for (let c = at; c < at + 3; c++) samples[c] = Math.round(paper + cover * (ink - paper))
      }
  }
  const grown = (map: Canvas['depth']) => {
    if (!map) return undefined
    const data = new Uint16Array(width * (height + strip))
    data.set(map.data)
    return { width, height: height + strip, data }
  }
  // Nothing in the strip has a depth, or is sharpened.
  return { ...canvas, samples, height: height + strip, depth: grown(canvas.depth), confidence: grown(canvas.confidence) }
}

/** A line as large as asked for, or smaller where it would not fit. */
async function fitting(line: string, line_px: number, room_px: number, tools: Tools): ReturnType<Tools['words']> {
  const words = await tools.words(line, line_px)
  if (words.width <= room_px) return words
  return tools.words(line, Math.max(5, Math.floor((line_px * room_px) / words.width)))
}
