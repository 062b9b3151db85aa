import type { Attachment, Kit } from '../kit'
import { sensorDistance_mm } from '../optics'
import { closingOf, gearOf } from './gear'
import type { PlanSheet, ReachKind } from './sheet'

/**
 * What to set for a wanted magnification, by each way to a size; undefined where this way cannot reach it. The inverse of `reachOf`.
 */
export function sheetForSize(wanted: number, sheet: PlanSheet, kit: Kit): Partial<PlanSheet> | undefined {
  const { lens, body } = gearOf(sheet, kit)
  const f = lens.focalLength_mm
  const ways: Record<ReachKind, () => Partial<PlanSheet>> = {
    lens: () => ({ magnification: wanted }),
    ruler: () => ({ acrossFrame_mm: body.sensorWidth_mm / wanted }),
    distance: () => ({ distance_mm: sensorDistance_mm(f, wanted, closingOf(lens)) }),
    // Beyond its own, the lens is set as near as it goes: that takes the shortest tubes.
    extension: () => {
      const base = wanted > lens.mostMagnification ? lens.mostMagnification : 0
      return { extension_mm: (wanted - base) * f, baseMagnification: base }
    },
    closeUp: () => ({ closeUpFocalLength_mm: f / wanted }),
    reversed: () => ({ extension_mm: wanted * f - body.register_mm }),
    faceToFace: () => ({ frontFocalLength_mm: f / wanted }),
    objective: () => ({ tube_mm: ((sheet.designTube_mm ?? 0) * wanted) / (sheet.designMagnification ?? NaN) }),
  }
  const set = ways[sheet.reach]()
  const rounded = Object.fromEntries(Object.entries(set).map(([key, mm]) => [key, Number((mm as number).toPrecision(4))]))
  const [value] = Object.values(rounded)
  const atZero = sheet.reach === 'reversed' && value === 0
  return value > 0 || atZero ? rounded : undefined
}

/** Tubes, or bellows, of the kit that come nearest to an extension. */
export interface NearestExtension {
  items: string[]
  extension_mm: number
}

/**
 * The tubes of the kit that together come nearest to an extension, each used once, or bellows where they reach it. Fewer tubes win where
 * two sets come as near. Undefined without any.
 */
export function nearestExtension(extension_mm: number, { attachments }: Pick<Kit, 'attachments'>): NearestExtension | undefined {
  const bellows = attachments.find(
    ({ kind, shortest_mm, longest_mm }) => kind === 'bellows' && shortest_mm! <= extension_mm && extension_mm <= longest_mm!,
  )
  const tubes = attachments.filter(({ kind }) => kind === 'tube').slice(0, MOST_TUBES)
  const sets = Array.from({ length: 2 ** tubes.length - 1 }, (_, bits) => tubes.filter((_, k) => ((bits + 1) >> k) & 1))
  const away = (set: Attachment[]) => Math.abs(sum(set) - extension_mm)
  const best = sets.sort((a, b) => away(a) - away(b) || a.length - b.length)[0]
  if (bellows && (!best || away(best) > CLOSE_mm)) return { items: [bellows.name], extension_mm }
  return best && { items: best.map(({ name }) => name), extension_mm: sum(best) }
}

/** Every set of these is tried. */
const MOST_TUBES = 10
/** Tubes that come this near are less to handle than bellows. */
const CLOSE_mm = 2

const sum = (tubes: Attachment[]) => tubes.reduce((total, { extension_mm }) => total + extension_mm!, 0)
