import { useRef, useState } from 'react'
import type Konva from 'konva'
import { Arrow, Circle, Line, Rect } from 'react-konva'
import type { Place } from '@/core/finish'
import { Amount, DepthRange, Stops } from './Amount'
import type { Editor, OverlayProps } from './editor'
import styles from '../deliver.module.css'

const HANDLE_px = 9

interface DotProps {
  at: Place
  times: number
  radius_px?: number
  onAt: (at: Place) => void
}

/** A handle on the picture. */
function Dot({ at: [x, y], times, radius_px = HANDLE_px, onAt }: DotProps) {
  return (
    <Circle
      x={(x + 0.5) * times}
      y={(y + 0.5) * times}
      radius={radius_px}
      fill="rgb(255 255 255 / 35%)"
      stroke="#fff"
      strokeWidth={2}
      shadowColor="#000"
      shadowBlur={3}
      hitStrokeWidth={18}
      draggable
      onDragMove={({ target }: { target: Konva.Node }) => onAt([Math.round(target.x() / times - 0.5), Math.round(target.y() / times - 0.5)])}
    />
  )
}

export const neutral: Editor<'neutral'> = {
  before: true,
  Fields: ({ step, onStep, width }) => (
    <>
      <p>Drag the ring to a place that should be grey.</p>
      <Amount
        label="Size of the place"
        text={`${Math.round(2 * step.radius_px)} px wide`}
        value={step.radius_px}
        min={1}
        max={Math.max(10, Math.round(width / 30))}
        step={1}
        onValue={(radius_px) => onStep({ ...step, radius_px }, 'radius')}
      />
    </>
  ),
  Overlay: ({ step, onStep, times }) => (
    <Dot at={step.at} times={times} radius_px={Math.max(6, step.radius_px * times)} onAt={(at) => onStep({ ...step, at }, 'at')} />
  ),
}

export const gradient: Editor<'gradient'> = {
  Fields: ({ step, onStep }) => (
    <>
      <p>Drag both ends of the arrow: all of it at its beginning and behind, nothing at its point and beyond.</p>
      <Stops label="Stops along the line" stops={step.stops} most={4} onStops={(stops) => onStep({ ...step, stops }, 'stops')} />
    </>
  ),
  Overlay: ({ step, onStep, times }) => (
    <>
      <Arrow
        points={shortened(
          [...step.from, ...step.to].map((value) => (value + 0.5) * times),
          HANDLE_px + 2,
        )}
        stroke="#fff"
        fill="#fff"
        strokeWidth={2}
        shadowColor="#000"
        shadowBlur={3}
        listening={false}
      />
      <Dot at={step.from} times={times} onAt={(from) => onStep({ ...step, from }, 'from')} />
      <Dot at={step.to} times={times} onAt={(to) => onStep({ ...step, to }, 'to')} />
    </>
  ),
}

/** A line without its last px, where a handle lies. */
function shortened([ax, ay, bx, by]: number[], by_px: number): number[] {
  const part = Math.max(0, 1 - by_px / (Math.hypot(bx - ax, by - ay) || 1))
  return [ax, ay, ax + part * (bx - ax), ay + part * (by - ay)]
}

export const depthGradient: Editor<'depthGradient'> = {
  Fields: ({ step, onStep, slices }) => {
    const front = step.from < step.to
    const slice = (depth: number) => (1 + depth * (slices - 1)).toFixed(0)
    const set = (near: number, far: number, isFront: boolean) => onStep({ ...step, from: isFront ? near : far, to: isFront ? far : near }, 'depth')
    const [near, far] = [Math.min(step.from, step.to), Math.max(step.from, step.to)]
    return (
      <>
        <p>
          {front
            ? `All of it up to slice ${slice(near)}, nothing from slice ${slice(far)} on.`
            : `All of it from slice ${slice(far)} on, nothing up to slice ${slice(near)}.`}
        </p>
        <DepthRange
          near={near}
          far={far}
          labels={['Nearer end of the change', 'Farther end of the change']}
          onRange={(a, b) => a < b && set(a, b, front)}
        />
        <button type="button" onClick={() => set(near, far, !front)}>
          {front ? 'Change the back instead' : 'Change the front instead'}
        </button>
        <Stops label="Stops along the depth" stops={step.stops} most={4} onStops={(stops) => onStep({ ...step, stops }, 'stops')} />
      </>
    )
  },
}

/** Draws on the picture: the path replaces what was drawn before. */
function Drawing({ step, onStep, times, width, height }: OverlayProps<'local'>) {
  const [path, setPath] = useState<Place[]>()
  const drawing = useRef(false)
  const placeOf = (target: Konva.Node | null): Place | undefined => {
    const at = target?.getStage()?.getPointerPosition()
    return at ? [Math.round(at.x / times - 0.5), Math.round(at.y / times - 0.5)] : undefined
  }
  const begin = ({ target }: Konva.KonvaEventObject<Event>) => {
    const at = placeOf(target)
    drawing.current = at !== undefined
    if (at) setPath([at])
  }
  const go = ({ target }: Konva.KonvaEventObject<Event>) => {
    const at = drawing.current ? placeOf(target) : undefined
    if (at) setPath((before) => [...(before ?? []), at])
  }
  const end = () => {
    if (drawing.current && path) onStep({ ...step, path })
    drawing.current = false
    setPath(undefined)
  }
  const points = (path ?? step.path).flatMap(([x, y]) => [(x + 0.5) * times, (y + 0.5) * times])
  return (
    <>
      <Line
        points={points.length === 2 ? [...points, points[0] + 0.1, points[1]] : points}
        stroke="#fff"
        opacity={path ? 0.4 : 0.18}
        strokeWidth={2 * step.radius_px * times}
        lineCap="round"
        lineJoin="round"
        listening={false}
      />
      <Rect
        width={width * times}
        height={height * times}
        onMouseDown={begin}
        onMouseMove={go}
        onMouseUp={end}
        onMouseLeave={end}
        onTouchStart={begin}
        onTouchMove={go}
        onTouchEnd={end}
      />
    </>
  )
}

export const local: Editor<'local'> = {
  Fields: ({ step, onStep, width, slices }) => {
    const { near, far } = step.gate ?? { near: 0, far: 1 }
    return (
      <>
        <p>Press and draw on the picture. For another place add another step.</p>
        <Stops label="Stops by hand" stops={step.stops} most={3} onStops={(stops) => onStep({ ...step, stops }, 'stops')} />
        <Amount
          label="Width of the hand"
          text={`${Math.round(2 * step.radius_px)} px wide`}
          value={step.radius_px}
          min={2}
          max={Math.round(width / 3)}
          step={1}
          onValue={(radius_px) => onStep({ ...step, radius_px }, 'radius')}
        />
        <div className={styles.amount}>
          <span>
            {step.gate ? `Only slices ${(1 + near * (slices - 1)).toFixed(0)} to ${(1 + far * (slices - 1)).toFixed(0)}` : 'At every depth'}
          </span>
          <DepthRange
            near={near}
            far={far}
            labels={['Nearest depth that is changed', 'Farthest depth that is changed']}
            onRange={(a, b) => onStep({ ...step, gate: a <= 0 && b >= 1 ? undefined : { near: a, far: b } }, 'gate')}
          />
        </div>
      </>
    )
  },
  Overlay: Drawing,
}
