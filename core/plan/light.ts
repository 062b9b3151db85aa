import { extensionLoss_stops, filteredExposure_s, thirdStops } from '../optics'

/** How the exposure of the series follows from the test exposure. Stops; 0 where there is none. */
export interface LightSettings {
  testExposure_s: number
  filter_stops: number
  polariser_stops: number
  /** Measured with a hand meter, which knows nothing of extension; through the lens it is already counted. */
  handMetered: boolean
  /** Darker by so much, so that highlights which glint in one frame alone keep their detail. */
  headroom_stops: number
}

export interface SeriesLight {
  exposure_s: number
  extension_stops: number
  /** The same light at other marked apertures. */
  equivalents: { fNumber: number; exposure_s: number }[]
}

/** Exposure of every frame of a series: test exposure, filters, polariser, extension and headroom together. */
export function seriesLight(
  settings: LightSettings,
  lens: { fNumber: number; magnification: number; pupilRatio: number; attachment?: boolean },
): SeriesLight {
  const extension_stops = lens.attachment ? 0 : extensionLoss_stops(lens.magnification, lens.pupilRatio)
  const stops = settings.filter_stops + settings.polariser_stops + (settings.handMetered ? extension_stops : 0) - settings.headroom_stops
  const exposure_s = filteredExposure_s(settings.testExposure_s, stops)
  const full = thirdStops(1, 45).filter((n) => Math.abs(Math.log2(n / lens.fNumber)) <= 1.05 && n !== lens.fNumber)
  return { exposure_s, extension_stops, equivalents: full.map((n) => ({ fNumber: n, exposure_s: exposure_s * (n / lens.fNumber) ** 2 })) }
}

/** How long and how still a scene must keep. */
export interface Stillness {
  /** For the whole series. */
  duration_s: number
  /** Fastest movement across the picture that one exposure does not smear beyond the allowed blur, on the subject. */
  mostSpeed_mmPerS: number
  /** How far the sun goes meanwhile, and how far the shadow of a post 1 m high wanders, at most, with the sun at 45°. */
  sun_deg: number
  shadow_mm: number
}

/** The sun crosses 360° in a day. */
const SUN_DEG_PER_S = 360 / 86_400

/** How still the scene must hold: a smear of c on the sensor is c/m on the subject. */
export function stillness(coc_mm: number, magnification: number, exposure_s: number, duration_s: number): Stillness {
  const sun_deg = duration_s * SUN_DEG_PER_S
  const turn = Math.min(sun_deg, 44) * (Math.PI / 180)
  return {
    duration_s,
    mostSpeed_mmPerS: magnification > 0 && exposure_s > 0 ? coc_mm / magnification / exposure_s : Infinity,
    sun_deg,
    shadow_mm: 1000 * (1 / Math.tan(Math.PI / 4 - turn) - 1),
  }
}
