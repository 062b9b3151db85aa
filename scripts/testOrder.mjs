import Sequencer from '@jest/test-sequencer'
import { ENGINE_PATTERN } from './engineTests.mjs'

/**
 * Long test files first, so that no core waits for the other at the end. `NITIDUS_TEST_ORDER=7` shuffles them by that seed instead, to find
 * tests that depend on what ran before them in the same process.
 */
export default class TestOrder extends Sequencer {
  sort(tests) {
    const seed = Number(process.env.NITIDUS_TEST_ORDER ?? 0)
    if (seed) return shuffled([...tests].sort(byPath), seed)
    const isLong = ({ path }) => Number(new RegExp(ENGINE_PATTERN).test(path.replaceAll('\\', '/')))
    return super.sort(tests).sort((a, b) => isLong(b) - isLong(a))
  }
}

const byPath = (a, b) => (a.path < b.path ? -1 : 1)

/** Fisher and Yates, with a linear congruential generator (Numerical Recipes). */
function shuffled(list, seed) {
  let state = seed
  for (let k = list.length - 1; k > 0; k--) {
    state = (state * 1664525 + 1013904223) % 2 ** 32
    const other = Math.floor((state / 2 ** 32) * (k + 1))
    ;[list[k], list[other]] = [list[other], list[k]]
  }
  return list
}
