'use client'

import type Konva from 'konva'
import { useEffect, useState } from 'react'
import { Circle, Layer, Line, Stage } from 'react-konva'
import type { BoundaryFrame } from '@/core/mend'
import { followView, useViewing } from '../viewer'
import styles from './mend.module.css'

interface Props {
  boundaries: BoundaryFrame[]
  width_px: number
  height_px: number
  /** A point was dragged, or a line widened with the wheel over one of its points. */
  onLines: (boundaries: BoundaryFrame[]) => void
}

const HANDLE_px = 9
const MOST_wide_px = 2000

/** The lines between the frames of a composed picture, laid over it: drag a point to bend a line, the wheel over it makes the change wider. */
export function Lines({ boundaries, width_px, height_px, onLines }: Props) {
  const viewing = useViewing()
  const [, redraw] = useState(0)
  useEffect(() => {
    if (!viewing) return
    return followView(viewing.viewer, () => redraw((n) => n + 1))
  }, [viewing])
  if (!viewing) return null
  const { viewer, library } = viewing
  const size = viewer.viewport.getContainerSize()
  const onScreen = ([x, y]: [number, number]) => viewer.viewport.pixelFromPoint(new library.Point((x + 0.5) / width_px, (y + 0.5) / width_px), true)
  const inPicture = ({ x, y }: { x: number; y: number }): [number, number] => {
    const point = viewer.viewport.pointFromPixel(new library.Point(x, y), true)
    const held = (value: number, most: number) => Math.min(most, Math.max(0, Math.round(value)))
    return [held(point.x * width_px - 0.5, width_px - 1), held(point.y * width_px - 0.5, height_px - 1)]
  }
  const moved = (line: number, point: number, target: Konva.Node) => {
    const to = inPicture(target.position())
    onLines(boundaries.map((each, k) => (k === line ? { ...each, until: each.until!.map((old, n) => (n === point ? to : old)) } : each)))
  }
  const widen = (line: number, by: number) => {
    const { width_px: wide = 40 } = boundaries[line]
    onLines(
      boundaries.map((each, k) =>
        k === line ? { ...each, width_px: Math.min(MOST_wide_px, Math.max(0, Math.round(wide * by + Math.sign(by - 1)))) } : each,
      ),
    )
  }
  const scale = (viewer.viewport.getZoom(true) * size.x) / width_px
  return (
    <Stage width={size.x} height={size.y} className={styles.lines}>
      <Layer>
        {boundaries.map(({ until, width_px: wide = 40 }, line) => {
          if (!until) return null
          const places = until.map(onScreen)
          const points = places.flatMap(({ x, y }) => [x, y])
          return [
            <Line key={`band ${line}`} points={points} stroke="#fff" opacity={0.22} strokeWidth={Math.max(2, wide * scale)} listening={false} />,
            <Line key={`dark ${line}`} points={points} stroke="#222" strokeWidth={3.5} listening={false} />,
            <Line key={`line ${line}`} points={points} stroke="#fff" strokeWidth={1.5} listening={false} />,
            ...places.map(({ x, y }, point) => (
              <Circle
                key={`${line} ${point}`}
                x={x}
                y={y}
                radius={HANDLE_px}
                fill="#fff"
                stroke="#222"
                strokeWidth={2}
                hitStrokeWidth={16}
                draggable
                onDragEnd={({ target }) => moved(line, point, target)}
                onWheel={({ evt }) => {
                  evt.preventDefault()
                  evt.stopPropagation()
                  widen(line, evt.deltaY < 0 ? 1.25 : 0.8)
                }}
              />
            )),
          ]
        })}
      </Layer>
    </Stage>
  )
}
