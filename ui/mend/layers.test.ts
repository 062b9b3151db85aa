import { inShort, type FrameDetail, type RenderDetail } from '@/schemas'
import type { NamedFrame } from '../namedFrames'
import { composedFrames, frameLayer, likeRenders, renderLayer } from './layers'

const crop = { x: 12, y: 8, width: 1176, height: 784 }
const lying = (file: string, change = {}) => ({ file, scale: 1, rotation_deg: 0, dx_px: 0, dy_px: 0, gain_ev: 0, ...change })
const render = (id: number, change = {}) =>
  ({
    id,
    report: { reference: 'b.jpg', crop, frames: [lying('a.jpg', { scale: 1.02, dx_px: 5 }), lying('b.jpg')], ...change },
  }) as unknown as RenderDetail
const frames = ['a.jpg', 'b.jpg'].map((file, k): NamedFrame => {
  const frame = { id: 40 + k, name: file, width: 1200, height: 800 } as FrameDetail
  return { number: k + 1, file, position_mm: null, frame }
})

test('a render fills the view, and is cut as it is', () => {
  const { placement, pyramid, key } = renderLayer(render(7))
  expect(placement).toEqual({ x: 0, y: 0, width: 1, degrees: 0 })
  expect([key, pyramid?.width_px, pyramid?.height_px]).toEqual(['render-7', 1176, 784])
})

test('the reference frame lies so that its own pixels meet the render’s', () => {
  const { placement } = frameLayer(render(7), frames[1], 1)!
  // In units of the picture's width: 12 px to the left of it, 8 px above.
  expect(placement.x).toBeCloseTo(-12 / 1176, 9)
  expect(placement.y).toBeCloseTo(-8 / 1176, 9)
  expect(placement.width).toBeCloseTo(1200 / 1176, 9)
})

test('a frame that was deleted has no layer, and the others are shown all the same', () => {
  const gone = [{ ...frames[0], frame: undefined }, frames[1]]
  expect(frameLayer(render(7), gone[0], 0)).toBeUndefined()
  const boundaries = [{ frame: 'a.jpg', until: [[0, 400]] as [number, number][], width_px: 30 }, { frame: 'b.jpg' }]
  expect(composedFrames({ boundaries }, render(7), gone).map(({ frame }) => frame)).toEqual(['b.jpg'])
})

test('a composed picture is laid of its frames from the bottom up, each as far as its line', () => {
  const until: [number, number][] = [[0, 400]]
  const composed = composedFrames({ boundaries: [{ frame: 'b.jpg', until, width_px: 30 }, { frame: 'a.jpg' }] }, render(7), frames)
  expect(composed.map(({ frame, until, width_px }) => [frame, until, width_px])).toEqual([
    ['b.jpg', until, 30],
    ['a.jpg', undefined, undefined],
  ])
  // The same frame may show through the porthole as well: its layer there has another key.
  expect(composed.map(({ layer }) => layer.key)).toEqual(['composed frame-41', 'composed frame-40'])
  expect(composedFrames({ frame: 'a.jpg' }, render(7), frames)).toHaveLength(1)
  expect(composedFrames('fused', render(7), frames)).toEqual([])
})

test('renders that lie alike: same reference, same crop, and not the render itself', () => {
  const all = [
    render(7),
    render(8),
    render(9, { reference: 'a.jpg' }),
    render(10, { crop: { ...crop, width: 1175 } }),
    render(11, { crop: { ...crop, x: 13 } }),
  ]
  const inList = all.map((each) => ({ ...each, report: inShort(each.report) }))
  expect(likeRenders(all[0], inList).map(({ id }) => id)).toEqual([8])
})
