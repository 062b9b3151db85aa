import { randomStream } from './random'
import { reliefLayer } from './relief'
import { KEY_LIGHT, normalise, shade, smoothStep, type Sight, type Vector } from './scene'
import { shadowOf, shadowReach, strandLayer, type Strand } from './strand'

const grey = { albedo: [0.5, 0.5, 0.5] as Vector, gloss: 0, shininess: 10 }
const sight = (): Sight => ({ z: 0, red: 0, green: 0, blue: 0, alpha: 0 })
const rod: Strand = { from: [-10, 0, 2], to: [10, 0, 2], fromRadius_mm: 0.5, toRadius_mm: 0.5, material: () => grey }

describe('light', () => {
  test('falls off as a surface turns from it, and shadow takes it away', () => {
    const [facing, turned, shaded] = [sight(), sight(), sight()]
    shade(facing, KEY_LIGHT, grey, 1, 1)
    shade(turned, normalise([0.5, 0.5, -0.7]), grey, 1, 1)
    shade(shaded, KEY_LIGHT, grey, 0, 1)
    expect(facing.green).toBeGreaterThan(turned.green)
    expect(facing.green).toBeGreaterThan(3 * shaded.green)
    expect(shaded.green).toBeGreaterThan(0)
  })

  test('a mirror shows the room and not its own paint alone', () => {
    const [matt, metal] = [sight(), sight()]
    const towardsTheLight = normalise([-0.15, -0.1, -1])
    shade(matt, towardsTheLight, grey, 1, 1)
    shade(metal, towardsTheLight, { ...grey, mirror: 1 }, 1, 1)
    expect(metal.red).not.toBeCloseTo(matt.red, 2)
  })

  test('a smooth step runs from 0 to 1 between its ends', () => {
    expect([smoothStep(1, 3, 0), smoothStep(1, 3, 2), smoothStep(1, 3, 9)]).toEqual([0, 0.5, 1])
  })
})

describe('a strand', () => {
  const layer = strandLayer(rod)

  test('is round: nearest in its middle, gone beside it, half there at its edge', () => {
    const middle = sight()
    expect(layer.see(0, 0, 0.02, middle)).toBe(true)
    expect(middle.z).toBeCloseTo(1.5, 2)
    expect(middle.alpha).toBe(1)
    expect(layer.see(0, 0.8, 0.02, sight())).toBe(false)
    const edge = sight()
    layer.see(0, 0.5, 0.02, edge)
    expect(edge.alpha).toBeCloseTo(0.5, 6)
  })

  test('ends where it ends', () => {
    expect(layer.see(10.4, 0, 0.02, sight())).toBe(true)
    expect(layer.see(11, 0, 0.02, sight())).toBe(false)
  })

  test('slants as its ends do', () => {
    const slanting = strandLayer({ ...rod, to: [10, 0, 6] })
    expect(slanting.depthAt(0, 0)).toBeCloseTo(4, 9)
    expect(slanting.depthAt(99, 0)).toBeCloseTo(6, 9)
  })

  test('throws its shadow away from the light, softer the farther it falls', () => {
    // The ground 3 mm behind the rod: its shadow lies off to where the light comes from, reversed.
    const fall = 3 / -KEY_LIGHT[2]
    const under = shadowOf(rod, 0, -KEY_LIGHT[1] * fall, 5)
    expect(under).toBeLessThan(0.45)
    expect(shadowOf(rod, 0, 9, 5)).toBe(1)
    expect(shadowOf(rod, 0, 0, 1)).toBe(1)
    const far = 12 / -KEY_LIGHT[2]
    expect(shadowOf(rod, 0, -KEY_LIGHT[1] * far, 14)).toBeGreaterThan(under)
  })
})

describe('a relief', () => {
  const step = reliefLayer({ width_mm: 40, height_mm: 30, depth: (x) => (x < 0 ? 2 : 6), material: () => grey, grain: () => 0 })

  test('keeps the depth it was given and its bounds', () => {
    expect(step.depthAt(-5, 3)).toBeCloseTo(2, 6)
    expect(step.depthAt(5, 3)).toBeCloseTo(6, 6)
    expect(step.bounds).toMatchObject({ near: 2, far: 6, left: -20, right: 20 })
  })

  test('lies in its own shadow behind a step that faces away from the light', () => {
    const [behind, clear] = [sight(), sight()]
    step.see(0.6, 0, 0.05, behind)
    step.see(15, 0, 0.05, clear)
    expect(behind.green).toBeLessThan(0.6 * clear.green)
  })

  test('a strand above it throws its shadow on it', () => {
    const flat = { width_mm: 40, height_mm: 30, depth: () => 5, material: () => grey, grain: () => 0 }
    const [lit, shaded] = [sight(), sight()]
    const y = -KEY_LIGHT[1] * (3 / -KEY_LIGHT[2])
    reliefLayer(flat).see(0, y, 0.05, lit)
    reliefLayer(flat, [rod]).see(0, y, 0.05, shaded)
    expect(shaded.green).toBeLessThan(0.7 * lit.green)
  })
})

describe('where a strand lies', () => {
  const slanting = strandLayer({ ...rod, from: [-6, -4, 2], to: [10, 4, 2], toRadius_mm: 0.2 })

  test.each([
    [-4.2, -3.8],
    [-1, 1],
    [3.9, 4.4],
  ])('between %d and %d nothing of it is left out', (top, bottom) => {
    const { left, right } = slanting.rangeAt!(top, bottom)!
    for (let y = top; y <= bottom; y += 0.05)
      for (let x = -12; x < 14; x += 0.05) if (slanting.see(x, y, 0.01, sight())) expect([x >= left, x <= right]).toEqual([true, true])
  })

  test('is close to the truth, and nowhere beyond its ends', () => {
    const { left, right } = slanting.rangeAt!(-0.1, 0.1)!
    expect(right - left).toBeLessThan(4)
    expect(slanting.rangeAt!(5, 6)).toBeUndefined()
    expect(strandLayer(rod).rangeAt!(0.2, 0.4)).toMatchObject({ left: -10.5, right: 10.5 })
    expect(strandLayer(rod).rangeAt!(2, 3)).toBeUndefined()
  })
})

test('where a strand may throw a shadow, no place is left out, however it leans, and most of the ground is', () => {
  const random = randomStream(11)
  const [ground_mm, STEP_mm] = [9, 0.5]
  for (let run = 0; run < 40; run++) {
    const point = (): Vector => [20 * random() - 10, 20 * random() - 10, 8 * random()]
    // One that lies along a row is its own case.
    const [from, to] = [point(), point()]
    const strand = { ...rod, from, to: run === 0 ? ([to[0], from[1], to[2]] as Vector) : to }
    const reach = shadowReach(strand, ground_mm)
    let [shadowed, inReach, all] = [0, 0, 0]
    for (let y = -20; y <= 20; y += STEP_mm) {
      const { left, right } = reach(y)
      for (let x = -20; x <= 20; x += STEP_mm) {
        const within = x >= left && x <= right
        const dark = shadowOf(strand, x, y, ground_mm) < 1
        if (dark && !within) throw new Error(`run ${run}: (${x}, ${y}) lies in the shadow`)
        shadowed += Number(dark)
        inReach += Number(within)
        all++
      }
    }
    expect(shadowed).toBeGreaterThan(0)
    expect(inReach).toBeLessThan(0.7 * all)
  }
})
