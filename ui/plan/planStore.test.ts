import { STARTER_KIT as kit } from '@/core/kit'
import { NEW_SHEET, planSheet, withGear } from '@/core/sheet'
import type { ShootDetail } from '@/schemas'
import { createPlanStore, keptOf } from './planStore'

const opened = (...of: [] | [shoot: ShootDetail]) => createPlanStore(kit, ...of)
const shoot = (change: Partial<ShootDetail> = {}) =>
  ({
    id: 7,
    title: 'Seed capsule',
    subject: 'tray 4',
    scene: 'bristles',
    sheet: { ...withGear(NEW_SHEET, kit), depth_mm: 14 },
    planRequest: null,
    runs: [],
    ...change,
  }) as unknown as ShootDetail

describe('a new plan', () => {
  test('is planned at once, with the first of everything in the kit', () => {
    const state = opened().getState()
    expect([state.isNew, state.stale, state.error]).toEqual([true, false, undefined])
    expect(state.shown!.plan.frameCount).toBe(planSheet(withGear(NEW_SHEET, kit), kit).plan.frameCount)
    expect(state.words).toEqual({ title: '', subject: '', scene: 'fossil' })
  })

  test('follows what is typed', () => {
    const store = opened()
    const before = store.getState().shown!.plan.frameCount
    store.getState().change({ depth_mm: 18 })
    const { shown, sheet } = store.getState()
    expect(sheet.depth_mm).toBe(18)
    expect(shown!.sheet.depth_mm).toBe(18)
    expect(shown!.plan.frameCount).toBeGreaterThan(1.8 * before)
  })

  test('what cannot be planned says where, and leaves the last plan in view until it can', () => {
    const store = opened()
    const plan = store.getState().shown!.plan
    store.getState().change({ depth_mm: 0 })
    const broken = store.getState()
    expect([broken.stale, broken.error!.field]).toEqual([true, 'depth_mm'])
    expect(broken.error!.error).toMatch(/\.$/)
    expect(broken.shown!.plan).toBe(plan)
    // Words that are typed meanwhile do not hide what is wrong with the plan.
    store.getState().changeWords({ title: 'Beetle' })
    expect(store.getState().error!.field).toBe('depth_mm')
    store.getState().change({ depth_mm: 9 })
    expect([store.getState().stale, store.getState().error]).toEqual([false, undefined])
    expect(store.getState().words.title).toBe('Beetle')
  })

  test('a refusal of the server goes when what it was about is typed', () => {
    const store = opened()
    store.getState().refuse({ field: 'title', error: 'Give it a title.' })
    expect(store.getState().error!.field).toBe('title')
    store.getState().changeWords({ title: 'Beetle' })
    expect(store.getState().error).toBeUndefined()
  })
})

describe('close up, and by distances', () => {
  test('each brings what suits it', () => {
    const store = opened()
    store.getState().changeKind('range')
    const { sheet, words, shown, error } = store.getState()
    expect([sheet.kind, words.scene, error]).toEqual(['range', 'garden', undefined])
    expect(sheet.lens).not.toBe('Macro 100 mm')
    expect(shown!.request.subject.kind).toBe('range')
  })

  test('what stood there before comes back, there and here', () => {
    const store = opened()
    const { change, changeKind, changeWords } = store.getState()
    change({ fNumber: 4, depth_mm: 21 })
    changeWords({ scene: 'nib' })
    changeKind('range')
    change({ fNumber: 11, near_mm: 800 })
    changeKind('depth')
    expect(store.getState().sheet).toMatchObject({ kind: 'depth', fNumber: 4, depth_mm: 21, lens: 'Macro 100 mm' })
    expect(store.getState().words.scene).toBe('nib')
    changeKind('range')
    expect(store.getState().sheet).toMatchObject({ kind: 'range', fNumber: 11, near_mm: 800 })
    expect(store.getState().words.scene).toBe('garden')
  })

  test('choosing what is chosen already changes nothing', () => {
    const store = opened()
    const before = store.getState()
    before.changeKind('depth')
    expect(store.getState()).toEqual(before)
  })
})

describe('a plan that was kept', () => {
  test('opens as it was filled in, with its words', () => {
    const { sheet, words, isNew } = opened(shoot()).getState()
    expect([sheet.depth_mm, isNew]).toEqual([14, false])
    expect(words).toEqual({ title: 'Seed capsule', subject: 'tray 4', scene: 'bristles' })
  })

  test('that came without a sheet is filled in from its request', () => {
    const { request } = planSheet({ ...withGear(NEW_SHEET, kit), depth_mm: 17, fNumber: 4 }, kit)
    const { sheet } = keptOf(kit, shoot({ sheet: null, planRequest: request as ShootDetail['planRequest'] }))
    expect(sheet).toMatchObject({ depth_mm: 17, fNumber: 4, body: kit.bodies[0].name })
  })

  test('a draft goes before it, and what an older draft lacks comes from the plan', () => {
    const kept = shoot()
    const { overlap_percent: _, ...older } = { ...kept.sheet!, depth_mm: 30 }
    const store = createPlanStore(kit, kept, {
      sheet: older as typeof kept.sheet & object,
      words: { title: 'Draft', subject: '', scene: 'wing' },
      at: '',
    })
    expect(store.getState().sheet).toMatchObject({ depth_mm: 30, overlap_percent: kept.sheet!.overlap_percent })
    expect(store.getState().words.title).toBe('Draft')
  })

  test('offers the frames that a browser shows, to measure in', () => {
    const frames = ['a.jpg', 'b.JPEG', 'c.png', 'd.tif', 'e.dng'].map((name, k) => ({ id: k + 1, name }))
    const { pictures } = opened(shoot({ runs: [{ number: 2, frames }] as unknown as ShootDetail['runs'] })).getState()
    expect(pictures).toEqual([
      { label: 'run 2, a.jpg', address: '/api/frames/1/original' },
      { label: 'run 2, b.JPEG', address: '/api/frames/2/original' },
      { label: 'run 2, c.png', address: '/api/frames/3/original' },
    ])
  })
})

test('a kit that was changed elsewhere is planned with at once; the same kit changes nothing', () => {
  const store = opened()
  const before = store.getState()
  before.useKit(kit)
  expect(store.getState().shown === before.shown).toBe(true)
  const finer = { ...kit, bodies: kit.bodies.map((body) => ({ ...body, pixelsWide: 2 * body.pixelsWide })) }
  before.useKit(finer)
  expect(store.getState().kit).toBe(finer)
  expect(store.getState().shown!.plan.frameCount).toBeGreaterThan(before.shown!.plan.frameCount)
})
