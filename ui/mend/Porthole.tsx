'use client'

import type OpenSeadragon from 'openseadragon'
import { useEffect, useLayoutEffect, useRef, useState, type PointerEvent, type WheelEvent } from 'react'
import { flushSync } from 'react-dom'
import { lay, useViewing, type Layer } from '../viewer'
import { dragged, firmness, rimAt, settled, sized, softened, type Hole, type Rim } from './hole'
import styles from './mend.module.css'

interface Props {
  hole: Hole
  onHole: (hole: Hole) => void
  /** What shows through it; nothing where it is worked out when the stroke ends. */
  through?: Layer
  label: string
  width_px: number
  /** A stroke ended: its path and radius in px of the picture, and how firmly a pen was pressed, 0 … 1. */
  onStroke: (path: [number, number][], radius_px: number, opacity: number) => void
  /** The pointer rests here, in px of the picture. */
  onRest: (x: number, y: number) => void
}

const CORNERS = 40
const REST_ms = 350
/** Points of a path are at least so far apart, in px of the screen. */
const APART_px = 2

/** A round hole through the picture: in it is seen what would be painted. Press and draw, and it stays. */
export function Porthole({ hole, onHole, through, label, width_px, onStroke, onRest }: Props) {
  const viewing = useViewing()
  const [at, setAt] = useState<{ x: number; y: number }>()
  const path = useRef<{ x: number; y: number }[]>([])
  /** How firmly a pen was pressed along the path. */
  const pressures = useRef<number[]>([])
  const [drawn, setDrawn] = useState<{ x: number; y: number }[]>([])
  /** The rim that is held, and the one that would be. */
  const grabbed = useRef<Rim>(undefined)
  const [rim, setRim] = useState<Rim>()
  const shown = useThrough(viewing, through)
  const resting = useRef<ReturnType<typeof setTimeout>>(undefined)

  // Before the next picture of the screen is drawn, so that the hole is where the pointer is.
  useLayoutEffect(() => {
    if (!viewing || !shown) return
    const holes = (drawn.length > 0 ? drawn : at ? [at] : []).map((place) => circle(place, hole.radius_px))
    const { viewer, library } = viewing
    shown.setOpacity(holes.length > 0 ? 1 : 0)
    const inside = holes.map((corners) => corners.map(({ x, y }) => shown.viewerElementToImageCoordinates(new library.Point(x, y))))
    if (inside.length > 0) shown.setCroppingPolygons(inside.map((corners) => corners.map(({ x, y }) => ({ x, y }))) as never)
    viewer.forceRedraw()
  }, [viewing, shown, at, drawn, hole.radius_px])

  if (!viewing) return null
  const { viewer, library } = viewing
  const pictureAt = ({ x, y }: { x: number; y: number }): [number, number] => {
    const point = viewer.viewport.pointFromPixel(new library.Point(x, y), true)
    // The middle of the first pixel is its place: half a pixel from the edge.
    return [settled(point.x * width_px - 0.5), settled(point.y * width_px - 0.5)]
  }
  const placeOf = ({ currentTarget, clientX, clientY }: PointerEvent<HTMLElement>) => {
    const { left, top } = currentTarget.getBoundingClientRect()
    return { x: clientX - left, y: clientY - top }
  }
  const fromMiddle = ({ x, y }: { x: number; y: number }) => Math.hypot(x - at!.x, y - at!.y)
  const onMove = (event: PointerEvent<HTMLElement>) => {
    const place = placeOf(event)
    if (grabbed.current) return onHole(dragged(hole, grabbed.current, fromMiddle(place)))
    // With Shift the porthole stays where it is, so that its rims can be reached.
    if (event.shiftKey && at && path.current.length === 0) return setRim(rimAt(hole, fromMiddle(place)))
    flushSync(() => {
      setRim(undefined)
      setAt(place)
    })
    clearTimeout(resting.current)
    if (path.current.length === 0) {
      resting.current = setTimeout(() => onRest(...pictureAt(place)), REST_ms)
      return
    }
    const last = path.current.at(-1)!
    if (Math.hypot(place.x - last.x, place.y - last.y) < APART_px) return
    path.current.push(place)
    if (event.pointerType === 'pen') pressures.current.push(event.pressure)
    flushSync(() => setDrawn([...path.current]))
  }
  const onDown = (event: PointerEvent<HTMLElement>) => {
    if (event.button !== 0) return
    event.currentTarget.setPointerCapture(event.pointerId)
    if (event.shiftKey && at) return void (grabbed.current = rimAt(hole, fromMiddle(placeOf(event))))
    path.current = [placeOf(event)]
    pressures.current = []
    setAt(path.current[0])
    setDrawn([...path.current])
  }
  const onUp = () => {
    grabbed.current = undefined
    if (path.current.length === 0) return
    const scale = width_px / (viewer.viewport.getZoom(true) * viewer.viewport.getContainerSize().x)
    onStroke(path.current.map(pictureAt), settled(hole.radius_px * scale), firmness(pressures.current))
    path.current = []
    setDrawn([])
  }
  const onWheel = (event: WheelEvent) => {
    if (event.ctrlKey) {
      const point = viewer.viewport.pointFromPixel(new library.Point(event.nativeEvent.offsetX, event.nativeEvent.offsetY))
      viewer.viewport.zoomBy(event.deltaY < 0 ? 1.2 : 1 / 1.2, point).applyConstraints()
      return
    }
    if (event.shiftKey) return onHole(softened(hole, hole.softness - Math.sign(event.deltaY || event.deltaX) * 0.1))
    onHole(sized(hole, hole.radius_px * (event.deltaY < 0 ? 1.12 : 1 / 1.12)))
  }
  return (
    <div
      className={styles.glass}
      data-testid="porthole"
      onPointerMove={onMove}
      onPointerDown={onDown}
      onPointerUp={onUp}
      onPointerCancel={onUp}
      onPointerLeave={() => path.current.length === 0 && setAt(undefined)}
      onWheel={onWheel}
    >
      {at && (
        <svg aria-hidden>
          <circle className={styles.rim} data-held={rim === 'outer'} cx={at.x} cy={at.y} r={hole.radius_px} />
          <circle className={styles.innerRim} data-held={rim === 'inner'} cx={at.x} cy={at.y} r={hole.radius_px * (1 - hole.softness)} />
          <text className={styles.says} x={at.x} y={at.y + hole.radius_px + 18}>
            {label}
          </text>
        </svg>
      )}
    </div>
  )
}

/** What shows through the hole, laid over the picture and cut to the hole; those shown before stay laid. */
function useThrough(viewing: ReturnType<typeof useViewing>, through: Layer | undefined): OpenSeadragon.TiledImage | undefined {
  const [shown, setShown] = useState<OpenSeadragon.TiledImage>()
  const laid = useRef(new Map<string, Promise<OpenSeadragon.TiledImage>>())
  useEffect(() => {
    const images = laid.current
    return () => images.clear()
  }, [viewing])
  useEffect(() => {
    if (!viewing || !through) return setShown(undefined)
    let current = true
    let image = laid.current.get(through.key)
    if (!image) laid.current.set(through.key, (image = lay(viewing.viewer, viewing.library, through)))
    image.then(
      (item) => {
        if (!current) return
        viewing.viewer.world.setItemIndex(item, viewing.viewer.world.getItemCount() - 1)
        setShown(item)
      },
      () => laid.current.delete(through.key),
    )
    return () => {
      current = false
      void image.then(
        (item) => item.setOpacity(0),
        () => undefined,
      )
    }
  }, [viewing, through])
  return shown
}

function circle({ x, y }: { x: number; y: number }, radius: number) {
  return Array.from({ length: CORNERS }, (_, k) => {
    const angle = (2 * Math.PI * k) / CORNERS
    return { x: x + radius * Math.cos(angle), y: y + radius * Math.sin(angle) }
  })
}
