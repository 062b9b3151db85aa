import type { ShootSummary } from '@/schemas'
import { framesText } from './ShootCard'

const shoot = { state: 'planned', frameCount: 0, usedCount: 0, fieldCount: 0, plan: null, planned: true } as ShootSummary

test.each<[Partial<ShootSummary>, string]>([
  [{ frameCount: 122, usedCount: 69, state: 'shot' }, '69 used of 122 frames'],
  [{ frameCount: 1, usedCount: 1, state: 'shot' }, '1 frame'],
  [{ state: 'shot', fieldCount: 6 }, '6 ticked in the field, no files yet'],
  [{ planned: false }, 'no plan, no frames yet'],
  [{}, 'the plan no longer works'],
])('%j says %s', (change, text) => expect(framesText({ ...shoot, ...change })).toBe(text))
