import { sayer } from '../words'

const slices = (count: number) => (count < 0.05 ? 'no slice' : `${count.toFixed(1)} slices`)
const some = (count: number, one: string, more = `${one}s`) => (count === 1 ? `1 ${one}` : `${count} ${more}`)
const mm = (value: number) => `${value < 1 ? value.toFixed(2) : value.toFixed(1)} mm`

interface Struck {
  frame: number
}

/** What an exercise says of a try. */
export const say = sayer({
  'practice.right': 'Right.',

  'practice.end': ({ end, missed, wasted }: { end: 'near' | 'far'; missed: number; wasted: number }) => {
    if (missed > 0)
      return `The ${end} end: ${slices(missed)} missed. ${end === 'near' ? 'Begin nearer' : 'Go farther'}: what is sharp in no frame cannot be fused.`
    if (wasted > 0.05) return `The ${end} end: ${slices(wasted)} beyond the subject. They cost time only.`
    return `The ${end} end: right.`
  },
  'practice.turned': 'Your far end lies nearer than your near end. Watch which way the sharp zone moves.',

  'practice.hand.all': ({ frames }: { frames: number }) => `All ${frames} planes were taken.`,
  'practice.hand.missed': ({ missed, frames }: { missed: number; frames: number }) =>
    `${missed} of ${frames} planes lie in a gap: no frame within half a stride. Turn in one direction only, so that the play stays taken up.`,
  'practice.hand.off': ({ off_percent }: { off_percent: number }) => `Your frames lie ${off_percent.toFixed(0)} % of a stride off on average.`,
  'practice.hand.spare': ({ spare }: { spare: number }) => `${some(spare, 'frame')} more than the planes needed.`,
  'practice.hand.knock': ({ frame, strides }: { frame: number; strides: number }) =>
    `Before frame ${frame} the rail was knocked back by ${strides.toFixed(1)} of a stride, and the dial showed nothing of it. Look at the live view after every knock, and go on from what you see.`,
  'practice.hand.late': ({ late_s }: { late_s: number }) => `${Math.round(late_s)} s over the time.`,
  'practice.hand.time': ({ took_s }: { took_s: number }) => `Done in ${Math.round(took_s)} s, within the time.`,

  'practice.choose.diffraction': ({ fNumber, best }: { fNumber: number; best: number }) =>
    `At f/${fNumber} diffraction alone is more than this print forgives, in every frame, and no series brings that back. Open up to f/${best}.`,
  'practice.choose.gaps': ({ stride_mm, slice_mm }: { stride_mm: number; slice_mm: number }) =>
    `A step of ${mm(stride_mm)} is longer than a slice is deep (${mm(slice_mm)}): soft bands lie between the frames.`,
  'practice.choose.short': ({ held_mm, depth_mm }: { held_mm: number; depth_mm: number }) =>
    `The series ends after ${mm(held_mm)}; the subject is ${mm(depth_mm)} deep.`,
  'practice.choose.covered': ({ depth_mm }: { depth_mm: number }) => `All ${mm(depth_mm)} of the subject are sharp.`,
  'practice.choose.spare': ({ spare, seconds }: { spare: number; seconds: number }) =>
    `${some(spare, 'frame')} more than needed: about ${Math.round(seconds)} s at the camera, and as many to fuse.`,
  'practice.choose.best': ({ fNumber, stride_mm, frames }: { fNumber: number; stride_mm: number; frames: number }) =>
    `The fewest that keep a fifth of overlap: f/${fNumber}, ${some(frames, 'frame')}, ${mm(stride_mm)} apart.`,

  'practice.happened.other': ({ answer }: { answer: string }) => `It was not “${answer}”.`,
  'practice.happened.frame': ({ frame }: { frame: number }) => `The right fault, but it was frame ${frame}.`,
  'practice.kind.nothing': 'Nothing, the run is fine',
  'practice.kind.bump': 'The tripod was bumped',
  'practice.kind.sway': 'The subject swayed',
  'practice.kind.noFlash': 'The flash did not fire fully',
  'practice.kind.flicker': 'The light flickered',
  'practice.kind.skippedStep': 'A step was twice as long',
  'practice.kind.repeatedStep': 'The focus did not move',
  'practice.kind.shake': 'A frame was shaken',
  'practice.kind.whiteBalance': 'One frame has another white balance',
  'practice.kind.divider': 'A hand is before the lens',
  'practice.kind.startShort': 'The series begins too late',
  'practice.kind.endShort': 'The series ends too soon',
  'practice.kind.runsOn': 'It runs on past the subject',
  'practice.kind.stirred': 'A part of the subject moved',
  'practice.kind.dust': 'Dust on the sensor',
  'practice.why.nothing': () => 'This run is fine: even light, steps alike, both ends reached as planned.',
  'practice.why.bump': ({ frame }: Struck) =>
    `From frame ${frame} on everything lies elsewhere: flick between ${frame - 1} and ${frame}. The tripod was bumped.`,
  'practice.why.sway': () => 'The whole picture sways from frame to frame.',
  'practice.why.noFlash': ({ frame }: Struck) => `Frame ${frame} is darker than its neighbours: the flash was not charged.`,
  'practice.why.flicker': () => 'No two frames are equally bright: the light flickers. Use a flash, or an exposure of whole cycles of the mains.',
  'practice.why.skippedStep': ({ frame }: Struck) =>
    `Between frames ${frame - 1} and ${frame} the sharp zone jumps twice as far: what lies between is sharp in neither.`,
  'practice.why.repeatedStep': ({ frame }: Struck) => `Frames ${frame - 1} and ${frame} are sharp at the same place: the focus did not move.`,
  'practice.why.shake': ({ frame }: Struck) => `In frame ${frame} even what is in focus is smeared, all in one direction: it was shaken.`,
  'practice.why.whiteBalance': ({ frame }: Struck) => `Frame ${frame} is warmer than its neighbours. Set the white balance by hand, not automatic.`,
  'practice.why.divider': ({ frame }: Struck) => `Frame ${frame} shows a hand: a divider. Leave it out before fusing.`,
  'practice.why.startShort': () => 'In frame 1 the nearest parts are soft already: the series begins too late.',
  'practice.why.endShort': () =>
    'After the last frame there is more to come: the series ends too soon. Look whether the farthest parts were ever sharp.',
  'practice.why.runsOn': () => 'The last frames are sharp nowhere: the focus ran on past the subject.',
  'practice.why.stirred': () => 'In some frames what stands in front lies elsewhere while the ground stays: a part of the subject moved.',
  'practice.why.dust': () =>
    'Dark specks stay at the same place of every frame while the focus moves: dust on the sensor. Clean it before the next run.',

  'practice.wander.found': ({ found, count }: { found: number; count: number }) =>
    count === 0 ? 'This time the faults left nothing to see.' : `${found} of ${some(count, 'place')} found.`,
  'practice.wander.wrong': ({ wrong }: { wrong: number }) =>
    wrong === 1 ? 'One mark lies where nothing is wrong.' : `${wrong} marks lie where nothing is wrong.`,
  'practice.wander.look': 'Hold Space to see the same picture without the faults.',

  'practice.evening.all': ({ count }: { count: number }) => `All ${count} targets are sharp in a well exposed frame.`,
  'practice.evening.soft': ({ names }: { names: string[] }) => `Soft, or in no well exposed frame: ${names.join(', ')}.`,
  'practice.evening.exposure': ({ count }: { count: number }) =>
    `${some(count, 'frame')} more than half a stop off. Read the meter before each exposure, with the filter on.`,
  'practice.evening.spare': ({ spare }: { spare: number }) => `${some(spare, 'frame')} more than needed.`,
  'practice.evening.fewest': ({ frames }: { frames: number }) => `${some(frames, 'frame')}, each focused on a target, would hold them all.`,
  'practice.evening.late': ({ late_s }: { late_s: number }) => `${Math.round(late_s)} s after the light was gone.`,
  'practice.evening.time': ({ left_s }: { left_s: number }) => `${Math.round(left_s)} s of light left.`,
} as const)
