import { createPicture, type Picture } from '../raster'
import { bestOf, Evening, EXERCISE_NAMES, EXERCISES, extentOf, fewestFrames, HandRail, LEVELS, placesOf, type ByHandTask, type ChooseTask } from '.'

const SEEDS = Array.from({ length: 40 }, (_, k) => 100 + 7 * k)
const codes = ({ said }: { said: { code: string }[] }) => said.map(({ code }) => code)

test.each(EXERCISE_NAMES)('%s poses the same task for the same seed and level, and others for others', (name) => {
  const { pose } = EXERCISES[name]
  for (const level of LEVELS) expect(pose(5, level)).toEqual(pose(5, level))
  expect(new Set(SEEDS.map((seed) => JSON.stringify(pose(seed, 2)))).size).toBeGreaterThan(20)
})

describe('what happened here', () => {
  const { pose, mark } = EXERCISES.whatHappened
  test('every choice comes up, nothing among them, and the fault is in the run that is shown', () => {
    const tasks = Array.from({ length: 300 }, (_, k) => pose(k, 3))
    expect(new Set(tasks.map(({ truth }) => truth.kind))).toEqual(new Set(tasks[0].choices))
    for (const { request, truth } of tasks) expect(request.faults?.map(({ kind }) => kind) ?? ['nothing']).toEqual([truth.kind])
  })
  test('the fault counts most, its frame too, and another fault is worth nothing', () => {
    const task = SEEDS.map((seed) => pose(seed, 1)).find(({ truth }) => truth.kind === 'bump')!
    const frame = task.truth.frame!
    const [right, beside, far, wrong] = [frame, frame + 1, frame + 4]
      .map((at) => mark(task, { kind: 'bump', frame: at }))
      .concat(mark(task, { kind: 'dust' }))
    expect([right, beside, far, wrong].map(({ percent }) => percent)).toEqual([100, 80, 60, 0])
    expect(codes(wrong)).toEqual(['practice.happened.other', 'practice.why.bump'])
  })
})

describe('near and far by eye', () => {
  const { pose, mark } = EXERCISES.nearAndFar
  test('who stops where the subject ends gets all; each slice missed costs more than one wasted', () => {
    const task = pose(11, 2)
    const { near_mm, far_mm } = extentOf(task.request)
    const step = (mm: number) => task.request.positions_mm.reduce((best, at, k, all) => (Math.abs(at - mm) < Math.abs(all[best] - mm) ? k : best), 0)
    const by = (near: number, far: number) =>
      mark(task, { near: step(near_mm + near * task.slice_mm), far: step(far_mm + far * task.slice_mm) }).percent
    expect(by(0, 0)).toBe(100)
    expect(by(1.5, 0)).toBeLessThan(by(-1.5, 0))
    expect(by(-3, 3)).toBeLessThan(by(-1.5, 1.5))
    expect(codes(mark(task, { near: 90, far: 10 }))).toContain('practice.turned')
  })
})

describe('by hand', () => {
  const { pose, mark } = EXERCISES.byHand
  /** Turns to each plane from before it, looking at where the carriage is. */
  function turned(task: ByHandTask, look: boolean) {
    const rail = new HandRail(task, 1)
    for (const plane of task.planned_mm) {
      const by = (look ? plane - rail.carriage_mm : plane - rail.marks * task.mmAMark) / task.mmAMark
      rail.turn(Math.round(by))
      rail.press()
    }
    return mark(task, { pressed_mm: rail.pressed_mm, took_s: task.time_s - 5 })
  }
  test('who turns one way and looks at the picture after a knock gets nearly all', () => {
    for (const seed of SEEDS.slice(0, 10)) expect(turned(pose(seed, 3), true).percent).toBeGreaterThan(93)
  })
  test('who goes by the dial alone loses planes to the knock, and is told when it came', () => {
    const blind = turned(pose(8, 3), false)
    expect(blind.percent).toBeLessThan(85)
    expect(codes(blind)).toContain('practice.hand.missed')
    expect(codes(blind)).toContain('practice.hand.knock')
  })
  test('turning back and forth leaves the play in the course', () => {
    const task = pose(8, 2)
    const rail = new HandRail(task, 1)
    rail.turn(10)
    rail.turn(-10)
    expect(rail.marks).toBe(0)
    expect(rail.carriage_mm / task.mmAMark).toBeCloseTo(Math.min(10, task.backlash_mm / task.mmAMark), 5)
  })
  test('late, too many, too few: each costs', () => {
    const task = pose(3, 1)
    const by = (pressed_mm: number[], took_s = 10) => mark(task, { pressed_mm, took_s }).percent
    expect(by(task.planned_mm)).toBe(100)
    expect(by(task.planned_mm, task.time_s + 30)).toBe(90)
    expect(by([...task.planned_mm, ...task.planned_mm])).toBeLessThan(80)
    expect(by(task.planned_mm.slice(0, 3))).toBe(50)
  })
})

describe('choose', () => {
  const { pose, mark } = EXERCISES.choose
  const printed = (print_mm: number): ChooseTask => SEEDS.map((seed) => pose(seed, 3)).find((task) => task.print_mm === print_mm)!
  test('the fewest frames that hold the subject get all', () => {
    for (const seed of SEEDS.slice(0, 12)) {
      const task = pose(seed, 3)
      expect(mark(task, bestOf(task)).percent).toBeGreaterThanOrEqual(99)
    }
  })
  test('steps twice as long leave gaps; half as many frames end short; twice as many are wasted', () => {
    const task = printed(300)
    const best = bestOf(task)
    expect(codes(mark(task, { ...best, stride_mm: 2 * best.stride_mm }))).toContain('practice.choose.gaps')
    expect(codes(mark(task, { ...best, frames: Math.ceil(best.frames / 2) }))).toContain('practice.choose.short')
    const many = mark(task, { ...best, stride_mm: best.stride_mm / 2, frames: 2 * best.frames })
    expect(codes(many)).toContain('practice.choose.spare')
    expect(many.percent).toBeLessThan(60)
  })
  test('stopped down so far that diffraction is more than the print forgives, nothing counts', () => {
    expect(mark(printed(600), { fNumber: 22, stride_mm: 0.1, frames: 100 })).toMatchObject({
      percent: 0,
      said: [{ code: 'practice.choose.diffraction' }, {}],
    })
  })
})

describe('landscape in five minutes', () => {
  const { pose, mark } = EXERCISES.fiveMinutes
  test('filter off to focus, on to expose, the meter read each time: all sharp, in time', () => {
    const task = pose(4, 2)
    const evening = new Evening(task)
    task.targets.forEach((_, index) => {
      expect(evening.focusOn(index)).toBe(true)
      evening.turnFilter()
      evening.setExposure(evening.metered_s)
      evening.press()
      evening.turnFilter()
    })
    const marked = mark(task, { taken: evening.taken, clock_s: evening.clock_s })
    expect(codes(marked)).toContain('practice.evening.all')
    expect(evening.taken).toHaveLength(4)
    expect(fewestFrames(task)).toBeLessThanOrEqual(4)
  })
  test('with the filter on focus goes wrong, and without it the light is six stops too much', () => {
    const task = pose(4, 3)
    const blind = new Evening(task)
    blind.turnFilter()
    expect(blind.focusOn(2)).toBe(false)
    expect(Math.abs(Math.log2(blind.focus_mm / task.targets[2].distance_mm))).toBeGreaterThan(0.02)
    const open = new Evening(task)
    open.press()
    expect(open.taken[0].off_stops).toBeCloseTo(6, 5)
    expect(codes(mark(task, { taken: open.taken, clock_s: 400 }))).toEqual(
      expect.arrayContaining(['practice.evening.soft', 'practice.evening.exposure', 'practice.evening.late']),
    )
  })
  test('light fades: what was right is a stop too little after so many seconds', () => {
    const evening = new Evening(pose(4, 1))
    evening.turnFilter()
    const first = evening.metered_s
    evening.clock_s += 240
    expect(evening.metered_s / first).toBeCloseTo(2, 5)
  })
})

describe('wander and find', () => {
  const { pose, mark } = EXERCISES.wander
  test('places are where the picture differs from one without faults', () => {
    const [clean, faulty] = [grey(), grey()]
    for (const plane of faulty.planes) for (let y = 40; y < 70; y++) plane.data.fill(0.8, y * 200 + 100, y * 200 + 130)
    expect(placesOf(faulty, clean)).toEqual([{ x: 100, y: 40, width: 30, height: 30, counts: true }])
    expect(placesOf(clean, clean)).toEqual([])
  })
  test('a mark in a place counts once, one where nothing is wrong costs, and one on what is too small to look for does not', () => {
    const task = pose(1, 1)
    const places = [
      { x: 10, y: 10, width: 20, height: 20, counts: true },
      { x: 200, y: 100, width: 30, height: 20, counts: true },
      { x: 300, y: 200, width: 10, height: 10, counts: false },
    ]
    const at = (...marked: [number, number][]) => mark(task, { places, marked: marked.map(([x, y]) => ({ x, y })) }).percent
    expect(at([15, 15], [16, 18], [210, 110])).toBe(100)
    expect(at([15, 15])).toBe(50)
    expect(at([15, 15], [120, 60])).toBe(42)
    expect(at([15, 15], [305, 203])).toBe(50)
  })
})

function grey(): Picture {
  const picture = createPicture(200, 120)
  for (const plane of picture.planes) plane.data.fill(0.4)
  return picture
}
