import { SimulatedSeries } from '.'
import { closeUp } from './testRequests'

const request = { ...closeUp({}, { fNumber: 8 }), positions_mm: [0, 1, 2, 3, 4, 5] }
const calm = new SimulatedSeries(request)
const stirred = new SimulatedSeries({ ...request, faults: [{ kind: 'stirred', frame: 3, frames: 2, shift_percent: 2 }] })

/** Share of the pixels whose green differs by more than noise. */
function changed(index: number): number {
  const [a, b] = [calm, stirred].map((series) => series.shoot(index).picture.planes[1].data)
  return a.reduce((count, value, i) => count + Number(Math.abs(value - b[i]) > 0.1), 0) / a.length
}

test('a part that stirred lies elsewhere in the frames that were said, and in no other', () => {
  for (const index of [2, 3]) {
    expect(changed(index)).toBeGreaterThan(0.01)
    expect(changed(index)).toBeLessThan(0.6)
    expect(stirred.shoot(index).faults).toContain('stirred')
  }
  for (const index of [0, 1, 4, 5]) {
    expect(changed(index)).toBeLessThan(0.001)
    expect(stirred.shoot(index).faults).toEqual([])
  }
})
