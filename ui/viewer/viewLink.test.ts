import type OpenSeadragon from 'openseadragon'
import { ViewLink } from './viewLink'

/** A view that stands at one bound, and tells its handlers what a hand does to it. */
class View {
  bounds = { x: 0 }
  private readonly handlers = new Map<string, (() => void)[]>()
  readonly viewport = {
    getBounds: () => this.bounds,
    fitBounds: (bounds: { x: number }) => this.moveTo(bounds.x),
  }

  addHandler(name: string, handler: () => void): void {
    this.handlers.set(name, [...(this.handlers.get(name) ?? []), handler])
  }

  raise(name: string): void {
    for (const handler of this.handlers.get(name) ?? []) handler()
  }

  /** As the library does: whatever moves a view, it tells of it. */
  moveTo(x: number): void {
    if (x === this.bounds.x) return
    this.bounds = { x }
    this.raise('viewport-change')
  }

  get viewer(): OpenSeadragon.Viewer {
    return this as unknown as OpenSeadragon.Viewer
  }
}

function linked(count = 2): { link: ViewLink; views: View[]; leave: (() => void)[] } {
  const link = new ViewLink()
  const views = Array.from({ length: count }, () => new View())
  return { link, views, leave: views.map((view) => link.join(view.viewer)) }
}

test.each(['canvas-enter', 'canvas-press', 'canvas-scroll', 'canvas-pinch', 'canvas-key', 'canvas-key-press'])(
  'after %s a view leads, and the others follow',
  (touched) => {
    const { views } = linked(3)
    views[1].raise(touched)
    views[1].moveTo(5)
    expect(views.map(({ bounds }) => bounds.x)).toEqual([5, 5, 5])
    views[2].raise(touched)
    views[2].moveTo(8)
    expect(views.map(({ bounds }) => bounds.x)).toEqual([8, 8, 8])
  },
)

test('the first view leads until another is touched; one that moves by itself comes back and moves nobody', () => {
  const { views } = linked()
  views[0].moveTo(3)
  expect(views[1].bounds.x).toBe(3)
  views[1].moveTo(9)
  expect(views.map(({ bounds }) => bounds.x)).toEqual([3, 3])
})

test('a view that comes later goes to where the leading one is', () => {
  const { link, views } = linked()
  views[0].moveTo(4)
  const late = new View()
  link.join(late.viewer)
  link.follow(late.viewer)
  expect(late.bounds.x).toBe(4)
  // The leading one follows nobody.
  link.follow(views[0].viewer)
  expect(views[0].bounds.x).toBe(4)
})

test('when the leading view goes another leads, and the one that went is left alone', () => {
  const { link, views, leave } = linked()
  leave[0]()
  views[1].moveTo(6)
  expect(views[0].bounds.x).toBe(0)
  const late = new View()
  link.join(late.viewer)
  link.follow(late.viewer)
  expect(late.bounds.x).toBe(6)
})

test('a button of a view makes it lead as well', () => {
  const { link, views } = linked()
  link.lead(views[1].viewer)
  views[1].moveTo(7)
  expect(views[0].bounds.x).toBe(7)
})
