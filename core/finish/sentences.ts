import { barText } from './scaleBar'
import type { Step, StepName, StepOf } from './recipe'

const one = (value: number) => `${Number(Math.abs(value).toFixed(1))}`
const stopsText = (stops: number) => `${one(stops)} ${Math.abs(stops) === 1 ? 'stop' : 'stops'} ${stops < 0 ? 'darker' : 'lighter'}`

/** Shapes that people name: the frame's own is said by its numbers. */
const RATIOS: [number, number][] = [
  [1, 1],
  [5, 4],
  [4, 3],
  [7, 5],
  [3, 2],
  [16, 9],
]

/** The shape of a crop in whole numbers where it has a usual one. */
function ratioText(width: number, height: number): string {
  const long = Math.max(width, height) / Math.min(width, height)
  const found = RATIOS.find(([a, b]) => Math.abs(long - a / b) < 0.01)
  if (!found) return `${width} × ${height} px`
  return width >= height ? `${found[0]} : ${found[1]}` : `${found[1]} : ${found[0]}`
}

const SENTENCES: { [K in StepName]: (step: StepOf<K>) => string } = {
  crop: ({ width, height }) => `Crop to ${ratioText(width, height)}`,
  straighten: ({ degrees }) => `Turn ${one(degrees)}° ${degrees < 0 ? 'to the left' : 'to the right'}`,
  neutral: () => 'Grey at the marked place',
  card: ({ frame }) => (frame ? `Grey as the card in ${frame}` : 'Grey from a card: choose its frame'),
  light: ({ stops }) => (stops === 0 ? 'As light as it is' : stopsText(stops)),
  tones: ({ points }) => {
    const moved = points.filter(([from, to]) => Math.abs(from - to) >= 0.05)
    if (moved.length === 0) return 'Tones as they are'
    return moved.map(([from, to]) => `${one(from)} below white: ${stopsText(to - from)}`).join('; ')
  },
  colour: ({ strength }) => (strength === 1 ? 'Colours as they are' : strength === 0 ? 'Without colour' : `Colours ${Math.round(100 * strength)} %`),
  gradient: ({ stops }) => `${stopsText(stops)} along a line`,
  depthGradient: ({ from, to, stops }) =>
    `${stopsText(stops)} at the ${from < to ? 'front' : 'back'}, as far as ${Math.round(100 * to)} % of the depth`,
  local: ({ stops }) => `${stopsText(stops)} by hand`,
  sharpen: ({ radius_px, amount }) => `Sharpen ${Math.round(100 * amount)} % at ${one(radius_px)} px`,
  size: (size) => ('long_px' in size ? `${size.long_px} px long` : `${Math.round(size.width_mm)} mm wide at ${Math.round(size.perInch)} per inch`),
  scaleBar: ({ length_mm }) => `Scale bar of ${barText(length_mm)}`,
  caption: ({ text }) => `Caption: ${text.split('\n')[0].slice(0, 40)}`,
}

/** What a step does, in a few words. */
export function stepText(step: Step): string {
  return (SENTENCES[step.do] as (step: Step) => string)(step)
}
