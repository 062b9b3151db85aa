import { movesCamera } from '../../movers'
import type { PlanRequest } from '../request'

export interface CardContext {
  frameCount: number
  /** 'flash', 'lamp' or 'daylight'. */
  light: 'flash' | 'lamp' | 'daylight'
  filter_stops: number
  /** The body moves the focus by itself. */
  byBody: boolean
  /** What is around: any of these. */
  surroundings: Surrounding[]
}

export type Surrounding = 'water' | 'height' | 'road' | 'animals' | 'protected' | 'people'

/** What to see to before the first frame, in order, fitted to the plan. */
export function checklist({ mover, subject }: PlanRequest, { frameCount, light, filter_stops, byBody }: CardContext): string[] {
  const byRail = movesCamera(mover.kind) && subject.kind === 'depth'
  return [
    'Card empty, with room for the whole series',
    `Battery full: it must last ${frameCount} frames`,
    light === 'flash' && 'Flash batteries full, output fixed by hand',
    'Exposure, ISO and white balance fixed by hand',
    'Stabiliser off, in body and lens',
    byBody ? 'Autofocus on, so that the body can move the lens; bracketing set' : 'Autofocus off; focus by hand',
    light === 'flash' ? 'Electronic shutter off: the flash needs the mechanical one' : 'Electronic shutter or mirror delay on',
    'Glass and sensor free of dust',
    subject.kind === 'range' ? 'Tripod on firm ground, weighted, neck strap off' : 'Subject fixed; nobody walks on the floor',
    'Camera level; framing with room at the edges',
    byRail && 'Rail moved from one side only, its play taken up',
    byRail && 'First and last position tried before the series',
    subject.kind === 'range' && 'Wind: wait for a lull as long as the series',
    filter_stops > 0 && 'Filter off to focus, on to expose, at every frame',
    'Test frame: highlights not clipped',
    'Divider frame: a hand before the lens',
  ].filter((line): line is string => typeof line === 'string')
}

const CAUTIONS: Record<Surrounding, string> = {
  water: 'Wet rocks are slippery and the tide comes back: look up the tide, keep a dry way out, keep mains power away from water.',
  height: 'Watch the edge: step back before looking at the screen, and tie the tripod down.',
  road: 'Traffic does not see you while you look at a screen: stand off the road, and have someone watch.',
  animals: 'Leave live animals as they are: no cooling, no glue, no flash at close range into eyes; stop when they are disturbed.',
  protected: 'Protected site: stay on the paths, touch nothing; local rules and the site’s owner decide what is allowed.',
  people: 'Flash and lamps never into eyes; cables where nobody trips over them.',
}

/** Cautions where they belong: from the light, the surroundings and the kind of plan. */
export function cautions({ subject }: PlanRequest, { light, surroundings }: Omit<CardContext, 'frameCount' | 'filter_stops' | 'byBody'>): string[] {
  const list = surroundings.map((what) => CAUTIONS[what])
  if (light === 'lamp') list.push('Lamps get hot: keep them from paper, cloth and specimens, and let them cool before packing.')
  if (light === 'flash' && !surroundings.includes('animals') && !surroundings.includes('people'))
    list.push('Fire no flash into eyes, your own included.')
  if (light !== 'daylight' && surroundings.includes('water')) list.push('Mains-powered light stays indoors; near water use batteries only.')
  if (subject.kind === 'range' && surroundings.length === 0)
    list.push('Look around before looking at the screen: edges, traffic, water. Local rules and the site’s owner decide.')
  return list
}
