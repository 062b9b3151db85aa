import { sayer } from '../../words'

/** What is said of the printed sheet that focus is measured on. */
export const say = sayer({
  'target.notSeen': ({ seen, frames }: { seen: number; frames: number }) =>
    seen === 0
      ? `The sheet is in none of the ${frames} frames. Let both rows of dots stand upright in the picture, lit evenly, and tilt the sheet by 30 to 60°.`
      : `The sheet is seen in one of ${frames} frames only. Two are needed at least.`,
  'target.facts': ({ file }: { file: string }) =>
    `${file} does not say how the sheet was printed. Write the distance of its dots into it, such as {"pitch_mm": 1}.`,
} as const)
