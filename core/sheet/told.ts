import { say, type Sentence } from '../words'
import { clickWay_mm } from './ringSteps'
import type { SheetPlan } from './sheetPlan'

/** What is said of a rail or a focus drive that runs tell of; of a drive that none does, what it is reckoned by. */
export function toldOf({ gear, plan, request }: Pick<SheetPlan, 'gear' | 'plan' | 'request'>): { told?: Sentence } {
  const { rail, known, perClick, lens } = gear
  if (rail && known) {
    const facts = { rail: rail.name, runs: known.runs, spread: known.spread }
    if (!known.conflict) return { told: say('rail.measured', { ...facts, times: known.value }) }
    return { told: say('rail.conflict', { ...facts, least: known.conflict.least, most: known.conflict.most }) }
  }
  if (!perClick || request.mover.kind !== 'ring' || request.subject.kind !== 'depth') return {}
  const way = (change: number) => clickWay_mm(change, lens, plan.magnification)
  if (!known) return { told: say('click.reckoned', { way_mm: way(perClick), clicks: lens.driveClicks! }) }
  const facts = { way_mm: way(known.value), runs: known.runs, spread: known.spread }
  if (!known.conflict) return { told: say('click.measured', facts) }
  return { told: say('click.conflict', { ...facts, least_mm: way(known.conflict.least), most_mm: way(known.conflict.most) }) }
}
