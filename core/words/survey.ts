/** What a survey says about a whole run. */
const RUN = {
  'survey.too-few': 'Fewer than three frames can be used. That is too few to check the series.',
  'survey.near-short': ({ percent, missing }: { percent: number; missing: number }) =>
    `${percent} % of the picture, in front of the first slice, is sharp in no frame. If that is foreground, fine. If not, take about ${missing} more, focused nearer.`,
  'survey.far-short': ({ percent, missing }: { percent: number; missing: number }) =>
    `${percent} % of the picture, behind the last slice, is sharp in no frame. If that is background, fine. If not, take about ${missing} more, focused farther away.`,
  'survey.near-short-of-plan': ({ missing, percent }: { missing: number; percent: number }) =>
    `The near end is not reached${unsharp(percent)}. Take ${frames(missing)} nearer than the first.`,
  'survey.far-short-of-plan': ({ missing, percent }: { missing: number; percent: number }) =>
    `The far end is not reached${unsharp(percent)}. Take ${frames(missing)} beyond the last.`,
  'survey.gap': ({ after, before, missing }: { after: string; before: string; missing: number }) =>
    `Between ${after} and ${before} ${missing === 1 ? 'a frame is' : `${missing} frames are`} missing. Go back and take ${missing === 1 ? 'it' : 'them'}.`,
  'survey.gap-left-out': ({ file, at, reason }: { file: string; at: string; reason: string }) =>
    `${file}${at} is left out (${reason}). Nothing else shows that depth: take it again.`,
  'survey.loose': ({ most }: { most: number }) =>
    `The slices do not touch: detail between them is sharp in no frame. Take ${most === 1 ? 'one more frame' : `up to ${most} more frames`} between every two, or plan with a larger overlap.`,
  'survey.moved': ({ from, to, jump_percent }: { from: string; to: string; jump_percent: number }) =>
    `The picture jumps by ${jump_percent.toFixed(1)} % of its width between ${from} and ${to}. Something was bumped. Registration can correct it.`,
  'survey.stirred': ({ from, to, steps, of }: { from: string; to: string; steps: number; of: number }) =>
    `Parts of the subject moved ${steps === 1 ? `between ${from} and ${to}` : `in ${steps} of ${of} steps, first between ${from} and ${to}`}. Fusing follows slight movement and shows the rest from one frame each. If that is not enough, shoot the run again when they are still.`,
  'survey.exposure': ({ spread_ev }: { spread_ev: number }) =>
    `Exposure varies by ${spread_ev.toFixed(2)} EV. Set it by hand, and keep the light constant.`,
  'survey.dust': ({ count }: { count: number }) =>
    `${count === 1 ? 'A speck of dust lies' : `${count} specks of dust lie`} on the sensor. Fusing keeps ${count === 1 ? 'it' : 'them'} out; clean the sensor before the next run.`,
  'survey.clipped': 'Highlights are clipped in many frames. Expose less.',
} as const

/** Why a single frame is not used. */
const FRAME = {
  'why.unmoved': ({ like }: { like: string }) => `shows the same as ${like}; the focus did not move`,
  'why.beyond': 'lies beyond the subject; nothing in it is sharp',
  'why.beyond-plan': ({ end }: { end: string }) => `is focused beyond the ${end} end of the plan`,
  'why.other-motif': 'shows something else, such as a hand, a marker or a test',
  'why.dark': ({ stops }: { stops: number }) => `${stops.toFixed(1)} stops darker than the others; did the light fire?`,
  'why.bright': ({ stops }: { stops: number }) => `${stops.toFixed(1)} stops brighter than the others`,
  'why.colour': ({ stops }: { stops: number }) => `its colour differs by ${stops.toFixed(2)} stops; the white balance was not fixed`,
  'why.shaken': 'less sharp everywhere than a frame with the same focus; the camera shook',
} as const

/** Why a card's frames begin another series. */
const SPLIT = {
  'split.clock': ({ from, to }: { from: string; to: string }) =>
    `The camera’s clock was set back between ${from} and ${to}. The frames are in the order of their names.`,
  'split.divider': 'a divider frame comes before it',
  'split.size': 'the pictures have another size',
  'split.focalLength': 'the focal length changed',
  'split.aperture': ({ from, to }: { from: number; to: number }) => `the aperture changed from f/${from} to f/${to}`,
  'split.pause': ({ waited_s }: { waited_s: number }) =>
    `${waited_s > 120 ? `${Math.round(waited_s / 60)} minutes` : `${Math.round(waited_s)} seconds`} passed`,
  'split.motif': 'it shows something else',
  'split.captures': 'from here each frame was captured several times',
} as const

export const SURVEY = { ...RUN, ...FRAME, ...SPLIT }

const unsharp = (percent: number) => (percent >= 1 ? `: ${Math.round(percent)} % of the picture there is sharp in no frame` : '')

const frames = (count: number) => `${count} more ${count === 1 ? 'frame' : 'frames'}`
