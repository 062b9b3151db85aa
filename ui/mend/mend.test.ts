import type { MendBase, MendEdit, PaintEdit } from '@/core/mend'
import type { FrameDetail, Registration } from '@/schemas'
import { dragged, firmness, rimAt, settled } from './hole'
import { bandOrders, orderOf, type MendedRender } from './orders'
import { editOf, throughText } from './through'
import { lastDone, lastUndone } from './useMend'

const stroke = { path: [[50, 40]] as [number, number][], radius_px: 10, softness: 0.5, opacity: 1 }
const heal = (id: string, change = {}): PaintEdit => ({ ...stroke, id, kind: 'heal', ...change })
const undo = (id: string, of: string): MendEdit => ({ id, kind: 'undo', of })

describe('undo and redo', () => {
  test('go back stroke by stroke and forth again', () => {
    const edits: MendEdit[] = [heal('a'), heal('b')]
    expect(lastDone(edits)).toBe('b')
    expect(lastUndone(edits)).toBeUndefined()
    edits.push(undo('u1', 'b'))
    expect([lastDone(edits), lastUndone(edits)]).toEqual(['a', 'u1'])
    edits.push(undo('u2', 'a'))
    expect([lastDone(edits), lastUndone(edits)]).toEqual([undefined, 'u2'])
    // Redo takes an undo back.
    edits.push(undo('r1', 'u2'))
    expect([lastDone(edits), lastUndone(edits)]).toEqual(['a', 'u1'])
    edits.push(undo('r2', 'u1'))
    expect([lastDone(edits), lastUndone(edits)]).toEqual(['b', undefined])
  })

  test('what was painted since leaves nothing to redo', () => {
    expect(lastUndone([heal('a'), undo('u', 'a'), heal('b')])).toBeUndefined()
  })
})

const registration: Registration = {
  version: 2,
  reference: 'b.jpg',
  frames: ['a.jpg', 'b.jpg'].map((file, k) => ({
    file,
    role: 'use' as const,
    scale: 1,
    rotation_deg: 0,
    dx_px: k === 0 ? 3 : 0,
    dy_px: 0,
    gain_ev: 0,
  })),
  crop: { x: 10, y: 20, width: 300, height: 200 },
  bends: { net: { left_px: 0, top_px: 0, spacingX_px: 1, spacingY_px: 1, columns: 0, rows: 0 }, frames: {} },
} as Registration
const detail = (id: number, name: string) => ({ id, name, width: 320, height: 240 }) as FrameDetail
const render = (base: MendBase = 'fused'): MendedRender => ({
  id: 7,
  registration,
  frames: new Map([
    ['a.jpg', detail(1, 'a.jpg')],
    ['b.jpg', detail(2, 'b.jpg')],
  ]),
  base,
})

describe('what the worker is asked for', () => {
  const donor: PaintEdit = { ...stroke, id: 'd', kind: 'donor', frame: 'a.jpg' }

  test('the part that a stroke touches, and the frame where it lies there', () => {
    const order = orderOf(donor, [], render())!
    expect(order.cut).toEqual({ x: 40, y: 30, width: 21, height: 21 })
    expect(order.base).toBe('/api/renders/7/area?x=40&y=30&width=21&height=21')
    const { donor: source } = order.edits[0]
    // The crop's corner, the motion of 3 px, and what is read around.
    const { held, at } = source!.placed!
    expect(at).toEqual({ x: 50, y: 50 })
    expect([held.x, held.y]).toEqual([53 - 48, 50 - 48])
    expect(source!.url).toBe(`/api/frames/1/area?x=${held.x}&y=${held.y}&width=${held.width}&height=${held.height}`)
    expect(order.edits[0].edit).toMatchObject({ path: [[10, 10]] })
    expect(order.depths).toBeUndefined()
  })

  test('with the edits before that touch the same part, and no others', () => {
    const before = [heal('near', { path: [[55, 45]] }), heal('far', { path: [[200, 150]] })]
    expect(orderOf(donor, before, render())!.edits.map(({ edit }) => edit.id)).toEqual(['near', 'd'])
  })

  test('where a healed place touches the part, all that it was healed from is taken in', () => {
    const order = orderOf(donor, [heal('near', { path: [[66, 40]] })], render())!
    expect(order.part.width).toBeGreaterThan(100)
    expect(order.cut).toEqual({ x: 40, y: 30, width: 21, height: 21 })
  })

  test('a gate needs the depth; a stroke outside needs nothing; another render lies as this one', () => {
    expect(orderOf({ ...donor, gate: { near: 0, far: 0.5 } }, [], render())!.depths).toContain('/api/renders/7/depths?x=40')
    expect(orderOf({ ...donor, path: [[-50, -50]] }, [], render())).toBeUndefined()
    const other = orderOf({ ...stroke, id: 'r', kind: 'render', file: 'render-9' }, [], render())!
    expect(other.edits[0].donor).toEqual({ url: '/api/renders/9/area?x=40&y=30&width=21&height=21' })
  })

  test('a composed picture is laid of its frames, the top one first, and its soft borders are asked for', () => {
    const until: [number, number][] = [
      [0, 100],
      [299, 140],
    ]
    const composed = render({ boundaries: [{ frame: 'a.jpg', until, width_px: 20 }, { frame: 'b.jpg' }] })
    const { base } = orderOf(donor, [], composed)!
    expect(base).toEqual([
      { donor: expect.objectContaining({ url: expect.stringContaining('/frames/2/') }) },
      {
        donor: expect.objectContaining({ url: expect.stringContaining('/frames/1/') }),
        until: [
          [-40, 70],
          [259, 110],
        ],
        width_px: 20,
      },
    ])
    const [band] = bandOrders(composed)
    expect(band.part).toEqual({ x: 0, y: 90, width: 300, height: 61 })
    expect(bandOrders(render())).toEqual([])
  })
})

describe('what shows through', () => {
  const frames = [
    { number: 4, file: 'a.jpg', position_mm: null },
    { number: 5, file: 'b.jpg', position_mm: null },
  ]
  const named = { ...stroke, id: 'x' }

  test('becomes the edit, and is said', () => {
    expect(editOf({ kind: 'sharpest' }, named, frames, 1, true)).toMatchObject({ kind: 'donor', frame: 'b.jpg', evenTone: true })
    expect(editOf({ kind: 'sharpest' }, named, frames, undefined, true)).toBeUndefined()
    expect(editOf({ kind: 'render', id: 9 }, named, frames, 1, false)).toMatchObject({ kind: 'render', file: 'render-9' })
    expect(editOf({ kind: 'original' }, named, frames, 1, false)).toEqual({ ...named, kind: 'original' })
    expect(throughText({ kind: 'donor', index: 0 }, frames, undefined)).toBe('frame 4')
    expect(throughText({ kind: 'sharpest' }, frames, 1)).toBe('frame 5, sharpest here')
  })
})

describe('the rims of the porthole', () => {
  const hole = { radius_px: 40, softness: 0.5 }

  test('the nearer one is grabbed, and a hard rim can be softened from within', () => {
    expect([rimAt(hole, 22), rimAt(hole, 36), rimAt(hole, 60), rimAt({ ...hole, softness: 0 }, 30)]).toEqual(['inner', 'outer', 'outer', 'inner'])
  })

  test('the outer one sizes, the inner one softens, both within what is of use', () => {
    expect(dragged(hole, 'outer', 71)).toEqual({ radius_px: 71, softness: 0.5 })
    expect(dragged(hole, 'inner', 10)).toEqual({ radius_px: 40, softness: 0.75 })
    expect(dragged(hole, 'inner', 90).softness).toBe(0)
    expect([dragged(hole, 'outer', 0).radius_px, dragged(hole, 'outer', 9000).radius_px]).toEqual([4, 400])
  })

  test('places are exact in binary, so that taking a whole number from them loses nothing', () => {
    for (const at of [173.50000000000006, 0.1, 5999.987]) expect(settled(at) - 1733 + 1733).toBe(settled(at))
    expect(settled(173.50000000000006)).toBe(173.5)
  })

  test('a pen covers by how firmly it is pressed, a mouse wholly', () => {
    expect([firmness([]), firmness([0.1, 0.25]), firmness([0.9]), firmness([0])]).toEqual([1, 0.5, 1, 0.05])
  })
})
