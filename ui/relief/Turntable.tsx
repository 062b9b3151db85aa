'use client'

import { useCallback, useEffect, useRef, useState, type KeyboardEvent } from 'react'
import { Mark } from './Mark'
import { Stage, type Light, type Place } from './stage'
import type { ReliefData } from './useSurface'
import styles from './relief.module.css'

interface Props {
  data: ReliefData
  light?: Light
  pictured: boolean
  /** So many times as high as it is. */
  height: number
  places: [Place, Place]
  onPlaces: (places: [Place, Place]) => void
}

const TURN_deg = 5
const NEARER = 1.15

/** The relief on the screen: dragged it turns, the wheel brings it nearer; the two places lie on it. */
export function Turntable({ data, light, pictured, height, places, onPlaces }: Props) {
  const host = useRef<HTMLDivElement>(null)
  const canvas = useRef<HTMLCanvasElement>(null)
  const stage = useRef<Stage>(undefined)
  const shown = useRef(places)
  const [seen, setSeen] = useState<[Place, Place]>()
  const [failed, setFailed] = useState(false)
  const project = useCallback(() => {
    if (stage.current) setSeen(shown.current.map((place) => stage.current!.seenAt(place)) as [Place, Place])
  }, [])
  useEffect(() => {
    let made: Stage
    try {
      made = new Stage(canvas.current!, data, project)
    } catch {
      setFailed(true)
      return
    }
    stage.current = made
    const observer = new ResizeObserver(() => made.resize(host.current!.clientWidth, host.current!.clientHeight))
    observer.observe(host.current!)
    return () => {
      observer.disconnect()
      made.dispose()
      stage.current = undefined
    }
  }, [data, project])
  useEffect(() => stage.current?.setLook(light, pictured), [light, pictured, data])
  useEffect(() => stage.current?.setHeight(height), [height, data])
  useEffect(() => {
    shown.current = places
    project()
  }, [places, project])

  const move = (which: number, place: Place) => onPlaces(places.map((known, k) => (k === which ? place : known)) as [Place, Place])
  const limit = data.surface.times
  const nudged = ([x, y]: Place, dx: number, dy: number): Place => [
    Math.min(data.surface.width * limit - 1, Math.max(0, x + dx)),
    Math.min(data.surface.height * limit - 1, Math.max(0, y + dy)),
  ]
  const dragTo = (which: number, clientX: number, clientY: number) => {
    const { left, top, width, height: high } = host.current!.getBoundingClientRect()
    const place = stage.current?.placeAt((clientX - left) / width, (clientY - top) / high)
    if (place) move(which, place)
  }
  const onKeyDown = (event: KeyboardEvent) => {
    const turns: Record<string, () => void> = {
      ArrowLeft: () => stage.current?.turn(-TURN_deg, 0),
      ArrowRight: () => stage.current?.turn(TURN_deg, 0),
      ArrowUp: () => stage.current?.turn(0, TURN_deg),
      ArrowDown: () => stage.current?.turn(0, -TURN_deg),
      '+': () => stage.current?.nearer(NEARER),
      '-': () => stage.current?.nearer(1 / NEARER),
      '0': () => stage.current?.front(),
    }
    if (!turns[event.key]) return
    event.preventDefault()
    turns[event.key]()
  }
  if (failed) return <p role="alert">This browser draws nothing in three dimensions. Take the relief along as a file, and open it elsewhere.</p>
  return (
    <div ref={host} className={styles.turntable}>
      <canvas
        ref={canvas}
        role="img"
        tabIndex={0}
        data-testid="relief"
        aria-label="The relief. Arrow keys turn it, plus and minus bring it nearer, 0 shows it from the front."
        onKeyDown={onKeyDown}
      />
      {seen && (
        <svg className={styles.line} aria-hidden>
          <line x1={`${100 * seen[0][0]}%`} y1={`${100 * seen[0][1]}%`} x2={`${100 * seen[1][0]}%`} y2={`${100 * seen[1][1]}%`} />
        </svg>
      )}
      {seen?.map((at, k) => (
        <Mark key={k} name={'AB'[k]} seen={at} onDrag={(x, y) => dragTo(k, x, y)} onNudge={(dx, dy) => move(k, nudged(places[k], dx, dy))} />
      ))}
    </div>
  )
}
