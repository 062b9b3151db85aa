import { framesOfBase, seenBy, strokeBounds, type MendBase, type PaintEdit } from '@/core/mend'
import { meeting, motionWithin, overlap, type Rectangle } from '@/core/raster'
import { heldFor } from '@/core/raster/kernels'
import { placeOf, type FrameDetail, type Registration } from '@/schemas'
import type { DonorSource, LaidFrame, PaintOrder } from './paintWorker'

/** The most that is painted at once, each way: what the application hands over in one part. */
const MOST_px = 1900
const LEAST_px = 16

/** What the worker needs to know of a render. */
export interface MendedRender {
  id: number
  registration: Registration
  /** The frames it was made of, by name. */
  frames: Map<string, FrameDetail>
  /** What is painted on. */
  base: MendBase
}

/**
 * What to paint of an edit: its own part of the picture, with all edits before it that touch that part. Nothing where it lies outside. What is
 * filled or evened depends on all around its stroke: where such an edit touches the part, the part takes in all that it looks at.
 */
export function orderOf(edit: PaintEdit, before: PaintEdit[], render: MendedRender): PaintOrder | undefined {
  const { width, height } = render.registration.crop
  const cut = boundsOf(edit, render)
  if (cut.width === 0 || cut.height === 0) return undefined
  const touching = new Set<PaintEdit>()
  let part = seenBy(edit, width, height)
  for (let more = true; more;) {
    const found = before.filter((other) => !touching.has(other) && overlap(boundsOf(other, render), part))
    for (const other of found) {
      touching.add(other)
      if (looksAround(other)) part = union(part, seenBy(other, width, height))
    }
    more = found.length > 0
  }
  part = within(part)
  const edits = [...before.filter((other) => touching.has(other)), edit]
  return {
    key: edit.id,
    base: baseOf(part, render),
    part,
    cut: meeting(cut, part),
    edits: edits.map((each) => ({ edit: moved(each, part), donor: donorFor(each, part, render) })),
    ...(edits.some(({ gate }) => gate) && { depths: `/api/renders/${render.id}/depths?${query(part)}` }),
  }
}

/** Bounds of strokes, which are asked for again with every stroke that comes after. */
const known = new WeakMap<PaintEdit, { registration: Registration; bounds: Rectangle }>()

function boundsOf(edit: PaintEdit, { registration }: MendedRender): Rectangle {
  const found = known.get(edit)
  if (found?.registration === registration) return found.bounds
  const bounds = strokeBounds(edit, registration.crop.width, registration.crop.height)
  known.set(edit, { registration, bounds })
  return bounds
}

const looksAround = (edit: PaintEdit) => edit.kind === 'heal' || ('evenTone' in edit && edit.evenTone === true)

/** A part of what is painted on as a picture of its own: the soft borders of composed frames. */
function orderOfBase(key: string, part: Rectangle, render: MendedRender): PaintOrder {
  return { key, base: baseOf(part, render), part, cut: part, edits: [], whole: true }
}

/** Columns of a soft border that are laid at once. */
const BAND_px = 480

/** The soft borders of a composed picture, in pieces: hard lines are seen until they are painted. */
export function bandOrders(render: MendedRender): PaintOrder[] {
  const { base, registration } = render
  if (base === 'fused' || 'frame' in base) return []
  const { width, height } = registration.crop
  return base.boundaries.flatMap(({ until, width_px = 0 }, line) => {
    if (!until || width_px === 0) return []
    return Array.from({ length: Math.ceil(width / BAND_px) }, (_, k) => {
      const [left, right] = [k * BAND_px, Math.min(width, (k + 1) * BAND_px)]
      const rows = [heightAt(until, left), heightAt(until, right), ...until.flatMap(([x, y]) => (x >= left && x <= right ? [y] : []))]
      const top = Math.max(0, Math.floor(Math.min(...rows) - width_px / 2))
      const bottom = Math.min(height, Math.ceil(Math.max(...rows) + width_px / 2) + 1)
      const part = { x: left, y: top, width: right - left, height: Math.min(MOST_px, bottom - top) }
      return orderOfBase(`band ${line} ${k} ${JSON.stringify(base)}`, part, render)
    }).filter(({ part }) => part.width >= LEAST_px && part.height >= LEAST_px)
  })
}

/** Height of a line at a column; beyond its ends it goes on level. */
function heightAt(points: [number, number][], x: number): number {
  const after = points.findIndex(([px]) => px >= x)
  if (after <= 0) return points.at(after === 0 ? 0 : -1)![1]
  const [[ax, ay], [bx, by]] = [points[after - 1], points[after]]
  return bx > ax ? ay + ((x - ax) / (bx - ax)) * (by - ay) : by
}

/** What a part is painted on: the render, or frames laid over one another, the top one first. */
function baseOf(part: Rectangle, render: MendedRender): PaintOrder['base'] {
  const { base } = render
  if (base === 'fused') return `/api/renders/${render.id}/area?${query(part)}`
  const lines = 'frame' in base ? [] : [...base.boundaries].reverse()
  return framesOfBase(base)
    .reverse()
    .flatMap((name, k): LaidFrame[] => {
      const donor = donorOf(name, part, render)
      if (!donor) return []
      const { until, width_px } = lines[k] ?? {}
      return [{ donor, ...(k > 0 && { until: until?.map(([x, y]) => [x - part.x, y - part.y] as [number, number]), width_px }) }]
    })
}

function donorFor(edit: PaintEdit, part: Rectangle, render: MendedRender): DonorSource | undefined {
  if (edit.kind === 'donor') return donorOf(edit.frame, part, render)
  if (edit.kind !== 'render') return undefined
  // Another render lies as this one does: nothing is moved.
  return { url: `/api/renders/${edit.file.replace('render-', '')}/area?${query(part)}` }
}

/** What the worker fetches of a frame, and how it lies. */
function donorOf(name: string, part: Rectangle, { registration, frames }: MendedRender): DonorSource | undefined {
  const [frame, place] = [frames.get(name), placeOf(registration, name)]
  if (!frame || !place) return undefined
  const { crop } = registration
  const at = { x: part.x + crop.x, y: part.y + crop.y }
  const held = heldFor(place.motion, { ...part, ...at }, frame)
  return { url: `/api/frames/${frame.id}/area?${query(held)}`, placed: { frame: { width: frame.width, height: frame.height }, held, place, at } }
}

/** Where a place of the picture lies in a frame, in its px. */
export function placeInFrame(x: number, y: number, name: string, { registration, frames }: MendedRender): { x: number; y: number } | undefined {
  const [frame, place] = [frames.get(name), placeOf(registration, name)]
  if (!frame || !place) return undefined
  const { area } = motionWithin(
    place.motion,
    { x: Math.round(x + registration.crop.x), y: Math.round(y + registration.crop.y), width: 1, height: 1 },
    frame.width,
    frame.height,
  )
  return { x: area.x, y: area.y }
}

function moved<E extends PaintEdit>(edit: E, { x, y }: Rectangle): E {
  return { ...edit, path: edit.path.map(([px, py]) => [px - x, py - y] as [number, number]) }
}

function within({ x, y, width, height }: Rectangle): Rectangle {
  const side = (length: number) => Math.max(LEAST_px, Math.min(MOST_px, length))
  return { x, y, width: side(width), height: side(height) }
}

const query = ({ x, y, width, height }: Rectangle) => new URLSearchParams({ x: `${x}`, y: `${y}`, width: `${width}`, height: `${height}` })

function union(a: Rectangle, b: Rectangle): Rectangle {
  const [x, y] = [Math.min(a.x, b.x), Math.min(a.y, b.y)]
  return { x, y, width: Math.max(a.x + a.width, b.x + b.width) - x, height: Math.max(a.y + a.height, b.y + b.height) - y }
}
