/** What a suggested step number is said with. */
interface StepFacts {
  step: number
  steps: number
  stride_mm: number
  runs: number
  /** By how much a stride differs, as a part of it. */
  spread?: number
  /** That two slices somewhere do not touch, 0 … 1. */
  risk?: number
  model?: 'fixed' | 'byAperture'
}

/** What runs tell of a rail or a focus drive. */
interface WayFacts {
  runs: number
  spread?: number
}

const percentWords = (times: number) => `${(100 * times).toFixed(1)} %`
const length = (mm: number) => `${mm.toPrecision(3)} mm`
const spreadWords = ({ spread }: { spread?: number }) => (spread === undefined ? '' : ` ± ${Math.max(1, Math.round(100 * spread))} %`)
const runWords = ({ runs, model }: Pick<StepFacts, 'runs' | 'model'>) => {
  const how = { fixed: '; this drive keeps its step at every aperture', byAperture: '; this drive scales its step by the aperture' }
  return `${runs > 1 ? ` in ${runs} runs` : ''}${model ? how[model] : ''}`
}
const riskWords = ({ risk }: StepFacts) =>
  risk === undefined ? '' : ` Risk of a gap: ${risk < 0.01 ? 'below 1 %' : `${Math.round(100 * risk)} %; plan with more overlap`}.`

/** What is advised about a plan: aperture, budget, direction, step number, one frame instead of a series. */
export const ADVICE = {
  'aperture.none': ({ widest }: { widest: number }) =>
    `Even at f/${widest} diffraction takes more than half of the allowed blur. Allow more blur, or open up as far as the lens goes.`,
  'aperture.oneFrame': ({ fNumber }: { fNumber: number }) => `f/${fNumber} holds the whole subject in one frame, and diffraction does not spoil it.`,
  'aperture.best': ({ fNumber, count }: { fNumber: number; count: number }) =>
    `f/${fNumber} is the smallest opening at which diffraction leaves half of the allowed blur to defocus: ${frames(count)}. Smaller openings save frames and lose sharpness.`,
  'budget.fits': ({ count, most }: { count: number; most: number }) =>
    `The plan fits as it is: ${count} of ${Number.isFinite(most) ? most : 'any number of'} frames.`,
  'budget.giveUp': ({ over, most }: { over: number; most: number }) =>
    `The plan needs ${frames(over)} too many. ${most} are enough if you give up one of these.`,
  'budget.none': ({ most }: { most: number }) =>
    `No sensible change brings the series down to ${frames(most)}. Plan less depth, or a smaller magnification.`,
  'bracket.set': ({ step, frames: count }: { step: number; frames: number }) => `Set step ${step} and ${frames(count)} in the body’s bracketing.`,
  'bracket.focus': ({ end }: { end: 'near' | 'far' }) => `Focus on the ${end} edge, or a touch ${end === 'near' ? 'nearer' : 'beyond it'}.`,
  'bracket.press': ({ wait_s, again }: { wait_s: string; again: number }) =>
    `Hands off, wait ${wait_s} s, press the shutter once.${again > 0 ? ` When it stops, leave the focus where it is and press again, ${again === 1 ? 'once' : `${again} times`}.` : ''}`,
  'bracket.unmeasured': ({ planned, other }: { planned: number; other: string }) =>
    `This step was never measured. The plan expects ${planned}, so set more, and stop when the ${other} end is sharp.`,
  'bracket.begin': ({ end }: { end: 'near' | 'far' }) => `the ${end} edge`,
  'bracket.goOn': 'where the focus stands; leave the ring alone',
  'card.focusFar': 'focus with the magnifier on something at the given distance, then leave the ring alone',
  'card.focusNear': 'focus with the magnifier on a part so far behind the near edge, then leave the ring alone',
  'card.click': 'click the focus drive on as the list says; for the first frame, focus by eye',
  'card.turn': 'turn the ring on as the list says; for the first frame, focus by eye',
  'direction.pointsDown': 'The camera points down. Start at the far end and raise it, so that its weight takes up the play of the screw.',
  'direction.pointsUp': 'The camera points up. Start at the near end and raise it, so that its weight takes up the play of the screw.',
  'direction.outdoors':
    'Start far: sky, water and shadows change first, so take them close together in time. On a still day, near first is just as good.',
  'direction.rail': 'Start near: it is easy to see where the first frame gets sharp, and running on past the far end only costs frames.',
  'direction.ring': 'Start near: the picture is tightest there, so what the first frame shows stays in all of them.',
  'step.guess': ({ step, steps }: { step: number; steps: number }) =>
    `Start with step ${step} of ${steps}. This is a cautious guess: nothing is known yet about this lens at this magnification. To measure it, shoot this plan and fuse it: Result tells the stride and saves it for the next plan.`,
  'step.measured': (facts: StepFacts) =>
    `Step ${facts.step} of ${facts.steps} moves the focus by ${length(facts.stride_mm)}${spreadWords(facts)}, as measured${runWords(facts)}.${riskWords(facts)}`,
  'step.reckoned': (facts: StepFacts & { measuredAt: number }) =>
    `Step ${facts.step} of ${facts.steps} moves the focus by up to ${length(facts.stride_mm)}${spreadWords(facts)}. It was measured at f/${facts.measuredAt}; some drives keep their step at other apertures, others scale it, and this is the longer of the two. A run at this aperture would tell which.${riskWords(facts)}`,
  'step.conflict': (facts: StepFacts & { least_mm: number; most_mm: number }) =>
    `Step ${facts.step} of ${facts.steps}: ${facts.runs} runs do not agree, it moved the focus by ${length(facts.least_mm)} to ${length(facts.most_mm)}. The longest is planned with. In the kit, leave out the runs you do not trust.${riskWords(facts)}`,
  'rail.measured': (facts: WayFacts & { rail: string; times: number }) =>
    `What ${facts.rail} moves by its dial is ${percentWords(facts.times)} on the subject${spreadWords(facts)}, as measured${runWords(facts)}. Its dial is planned with that.`,
  'rail.conflict': (facts: WayFacts & { rail: string; least: number; most: number }) =>
    `${facts.runs} runs on ${facts.rail} do not agree: what it moves by its dial was ${percentWords(facts.least)} to ${percentWords(facts.most)} on the subject. The longest is planned with. In the kit, leave out the runs you do not trust.`,
  'click.measured': (facts: WayFacts & { way_mm: number }) =>
    `A click of the focus drive moves the focus by ${length(facts.way_mm)} here${spreadWords(facts)}, as measured${runWords(facts)}.`,
  'click.conflict': (facts: WayFacts & { least_mm: number; most_mm: number }) =>
    `${facts.runs} runs by this focus drive do not agree: a click moves the focus by ${length(facts.least_mm)} to ${length(facts.most_mm)} here. The longest is planned with. In the kit, leave out the runs you do not trust.`,
  'click.reckoned': ({ way_mm, clicks }: { way_mm: number; clicks: number }) =>
    `A click of the focus drive moves the focus by about ${length(way_mm)} here, reckoned from its ${clicks} clicks from infinity to nearest. To measure it, shoot this plan and fuse it: Result tells the stride and saves it for the next plan.`,
  'trade.none': ({ depth_mm }: { depth_mm: number }) => `No row holds all ${depth_mm} mm sharp: ${LAW}. That is what a focus series is for.`,
  'trade.oneFrame': ({ depth_mm, setting, share_percent }: { depth_mm: number; setting: string; share_percent: number }) =>
    `One frame does it: ${setting} holds all ${depth_mm} mm, and the subject fills ${share_percent.toFixed(0)} % of the width.`,
  'trade.smaller': ({
    depth_mm,
    setting,
    share_percent,
    series_percent,
  }: {
    depth_mm: number
    setting: string
    share_percent: number
    series_percent: number
  }) =>
    `One frame holds all ${depth_mm} mm only if the subject fills no more than ${share_percent.toFixed(0)} % of the width (${setting}): ${LAW}. A series keeps it at ${series_percent.toFixed(0)} %.`,
} as const

const LAW = 'depth of field depends only on magnification and aperture, so more depth means a smaller subject or more diffraction'

const frames = (count: number) => `${count} ${count === 1 ? 'frame' : 'frames'}`
