import { profileLight, SRGB_PROFILE } from '../../formats'
import { luma, type Picture, type Plane } from '../../raster'

/** Samples of a profile are looked up in so many steps. */
const STEPS = 4096

/** How light a picture is at each place, 0 … 1 and linear: blur adds up light, not samples. By the profile's curve, sRGB's where it has none. */
export function lightOf(picture: Picture, profile?: Uint8Array): Plane {
  const { curve } = (profile && profileLight(profile, STEPS)) ?? profileLight(SRGB_PROFILE, STEPS)!
  const planes = picture.planes.map(({ data, ...plane }) => ({
    ...plane,
    data: data.map((value) => {
      const at = Math.min(1, Math.max(0, value)) * (STEPS - 1)
      const k = Math.min(STEPS - 2, Math.floor(at))
      return curve[k] + (at - k) * (curve[k + 1] - curve[k])
    }),
  }))
  return luma({ ...picture, planes: planes as Picture['planes'] })
}
