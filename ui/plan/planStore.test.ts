import { STARTER_KIT as kit } from '@/core/kit'
import { FOSSIL } from '@/demo/scenario'
import type { ShootDetail } from '@/schemas'
import { createPlanStore } from './planStore'

const shoot = { ...FOSSIL, planRequest: FOSSIL.plan, sheet: FOSSIL.sheet, runs: [] } as unknown as ShootDetail

test('a new plan can be planned at once, with the kit’s first items', () => {
  const { sheet, shown, stale, error, words } = createPlanStore(kit).getState()
  expect(sheet.body).toBe(kit.bodies[0].name)
  expect(shown!.plan.frameCount).toBeGreaterThan(1)
  expect([stale, error, words.title]).toEqual([false, undefined, ''])
})

test('a kept plan comes back as it was filled in, with or without its sheet', () => {
  expect(createPlanStore(kit, shoot).getState().sheet).toMatchObject({ depth_mm: 9, fNumber: 8, blur_pixels: 4 })
  expect(createPlanStore(kit, { ...shoot, sheet: null }).getState().sheet).toMatchObject({ depth_mm: 9, fNumber: 8, blur_pixels: 4 })
})

test('while a field is being mended the last plan stays in view', () => {
  const store = createPlanStore(kit)
  const before = store.getState().shown
  store.getState().change({ depth_mm: null })
  expect(store.getState()).toMatchObject({ stale: true, error: { field: 'depth_mm' }, shown: before })
  store.getState().change({ depth_mm: 5 })
  expect(store.getState()).toMatchObject({ stale: false, error: undefined })
  expect(store.getState().shown!.sheet.depth_mm).toBe(5)
})

test('a refusal is cleared by the next word, an error of the plan is not', () => {
  const store = createPlanStore(kit)
  store.getState().refuse({ field: 'title', error: 'Give the shoot a title.' })
  store.getState().changeWords({ title: 'Seed' })
  expect(store.getState()).toMatchObject({ error: undefined, words: { title: 'Seed' } })
  store.getState().change({ fNumber: 1 })
  store.getState().changeWords({ title: 'Seed 2' })
  expect(store.getState().error).toMatchObject({ field: 'fNumber' })
})

test('a kit that changed is planned with', () => {
  const store = createPlanStore(kit)
  store.getState().useKit({ ...kit, lenses: [] })
  expect(store.getState().error).toMatchObject({ field: 'lens' })
  store.getState().useKit(kit)
  expect(store.getState().stale).toBe(false)
})

test('frames that a browser can show are offered to measure in', () => {
  const runs = [
    {
      number: 1,
      frames: [
        { id: 7, name: 'a.JPG' },
        { id: 8, name: 'b.tif' },
        { id: 9, name: 'c.png' },
      ],
    },
  ]
  const { pictures } = createPlanStore(kit, { ...shoot, runs } as unknown as ShootDetail).getState()
  expect(pictures).toEqual([
    { label: 'run 1, a.JPG', address: '/api/frames/7/original' },
    { label: 'run 1, c.png', address: '/api/frames/9/original' },
  ])
})
