import sharp from 'sharp'
import { inPlace, readForScreen, readGrey, writeMoving, type ScreenPicture } from '@/codec'
import { rockingPlaces, seenFromAside, type View } from '@/core/relief'
import { refusal } from '@/core/words'
import type { TakeJob } from '@/schemas'
import type { Taker } from './taker'

const ROCKING_px = 800
const ROCKING_count = 24
const ROCKING_ms = 70
const STEREO_px = 1600
/** How far the nearest and the farthest part move against each other, as a part of the width: comfortable for the eyes. */
const SWAY = 1 / 40
const APART = 1 / 30

/** The relief from a little aside, to and fro. */
export const takeRocking: Taker = async (job, _, progress) => {
  const view = await viewOf(job, job.width_px ?? ROCKING_px)
  const pictures = rockingPlaces(ROCKING_count).map((place, k) => {
    progress({ stage: 'take', frame: k + 1, of: ROCKING_count })
    return { ...view, samples: seenFromAside(view, place * SWAY * view.width) }
  })
  await writeMoving(job.out, pictures, ROCKING_ms)
}

/** What each eye sees, side by side: for parallel eyes the left one's on the left. */
export const takeStereo: Taker = (job) => pair(job, ['left', 'right'])
export const takeCrossed: Taker = (job) => pair(job, ['right', 'left'])

async function pair(job: TakeJob, eyes: ('left' | 'right')[]): Promise<void> {
  const view = await viewOf(job, job.width_px ?? STEREO_px)
  const { width, height } = view
  // The right eye sees near things farther to the left.
  const seen = eyes.map((eye) => seenFromAside(view, (eye === 'right' ? 1 : -1) * APART * width))
  const sheet = Buffer.concat(Array.from({ length: 2 * height }, (_, k) => seen[k & 1].subarray(3 * width * (k >> 1), 3 * width * ((k >> 1) + 1))))
  const picture = sharp(sheet, { raw: { width: 2 * width, height, channels: 3 } })
  await inPlace(job.out, (part) => (/\.png$/i.test(job.out) ? picture.png() : picture.jpeg({ quality: 93, chromaSubsampling: '4:4:4' })).toFile(part))
}

/** The picture and its depth as small as asked for. @throws Refusal where no depth is known. */
async function viewOf({ picture, depth }: TakeJob, width_px: number): Promise<View> {
  if (depth === undefined) throw refusal('take.noDepth')
  const small: ScreenPicture = await readForScreen(picture, width_px)
  const map = await readGrey(depth, small.width)
  if (map.width !== small.width || map.height !== small.height) throw refusal('take.noDepth')
  return { ...small, depth: map.data }
}
