import { greyAsRgb, profileName, profileSpace, SRGB_PROFILE } from '@/core/formats'
import { refusal } from '@/core/words'

/** How a picture's pixels are stored. */
export type ColourModel = 'rgb' | 'grey' | 'cmyk'

/** The space that decoded samples are in, and what had to be done to get there. */
export interface ColourSpace {
  model: ColourModel
  /** The file's own profile, where it carries one. */
  icc?: Buffer
  /** Profile of the decoded RGB samples; undefined where the file says nothing of its colours. */
  samplesIcc?: Buffer
  /** Whether decoding changes samples: CMYK cannot be fused as it is. Grey and RGB samples stay as they are. */
  converted: boolean
}

/** libvips' names of what we read. */
const MODELS: Record<string, ColourModel> = { srgb: 'rgb', rgb: 'rgb', rgb16: 'rgb', 'b-w': 'grey', grey16: 'grey', cmyk: 'cmyk' }

/**
 * What a file's pixels and profile amount to.
 * @throws Refusal where its colours cannot be read rightly.
 */
export function colourSpaceOf(name: string, space: string, icc: Buffer | undefined): ColourSpace {
  const model = MODELS[space]
  if (!model) throw refusal('picture.colourModel', { name, space })
  if (icc && profileSpace(icc) !== { rgb: 'RGB', grey: 'GRAY', cmyk: 'CMYK' }[model]) throw refusal('picture.wrongProfile', { name })
  if (model === 'rgb') return { model, icc, samplesIcc: icc, converted: false }
  if (model === 'cmyk') {
    if (!icc) throw refusal('picture.noCmykProfile', { name })
    return { model, icc, samplesIcc: Buffer.from(SRGB_PROFILE), converted: true }
  }
  const asRgb = icc && greyAsRgb(icc)
  if (icc && !asRgb) throw refusal('picture.greyProfile', { name })
  return { model, icc, samplesIcc: asRgb && Buffer.from(asRgb), converted: false }
}

/** A colour space in words, for sentences and the screen: `the profile “Display P3”`, `grey without a profile`. */
export function colourText({ model, ...how }: Pick<ColourSpace, 'model' | 'icc'> | { model: ColourModel; profile: string | null }): string {
  const pixels = { rgb: '', grey: 'grey', cmyk: 'CMYK' }[model]
  const called = 'profile' in how ? how.profile : how.icc ? profileName(how.icc) : null
  const profile = called === null ? 'no profile' : `the profile “${called}”`
  return pixels ? `${pixels} with ${profile}` : profile
}
