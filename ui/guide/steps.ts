import type { Step } from '../shell'

interface GuideStep {
  /** Words as they come up, each with what it means. */
  words: [word: string, meaning: string][]
  /** What to do here, in a sentence or two. */
  task: string
  next?: Step
}

/** The first series, from the plan to the file. */
export const GUIDE: Record<Step, GuideStep> = {
  plan: {
    words: [
      ['Slice', 'what one frame holds sharp.'],
      ['Stride', 'the way from one slice to the next.'],
      ['Overlap', 'how far neighbouring slices reach into each other, so that no gap opens.'],
    ],
    task: 'Change the aperture and watch the ribbon: fewer frames, or thinner slices. When you like it, press “Save this plan”.',
    next: 'shoot',
  },
  shoot: {
    words: [
      ['Run', 'one captured series.'],
      ['Survey', 'the check of a run: gaps, ends that were not reached, frames that went wrong.'],
    ],
    task: 'Press “Shoot”: the simulated camera takes the frames. Read what the survey says of them, then press “Fuse these frames”. The picture opens by itself.',
    next: 'result',
  },
  result: {
    words: [
      ['Register', 'bring all frames to the same place and size.'],
      ['Fuse', 'take from each frame what it shows sharp.'],
      ['Source map', 'which frame shows where.'],
    ],
    task: 'Press 100 % and move over the picture. ← and → flick to the frames behind it, F brings back the fused one.',
    next: 'mend',
  },
  mend: {
    words: [
      ['Porthole', 'the round hole under the pointer: through it you see what you would paint.'],
      ['Donor', 'the frame that is painted from.'],
    ],
    task: 'Rest on a place: the same spot of every frame appears below. Choose one and draw, if something is wrong; often nothing is.',
    next: 'deliver',
  },
  deliver: {
    words: [
      ['Proof', 'what the file will look like.'],
      ['Recipe', 'what is done to the picture, step by step; it can be kept and used again.'],
    ],
    task: 'Choose a format and write the file. That was a whole series. Now bring frames of your own, or practise a single step.',
  },
}
