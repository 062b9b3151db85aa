import { useEffect, useRef, useState } from 'react'
import { InputNumber, Select } from 'antd'
import type Konva from 'konva'
import { Line, Rect, Transformer } from 'react-konva'
import { sizeOf, type Place } from '@/core/finish'
import { Amount } from './Amount'
import type { Editor, OverlayProps } from './editor'
import styles from '../deliver.module.css'

/** Shapes to crop to, long side by short side; `frames` is that of the frames. */
const SHAPES = ['free', 'frames', '1 : 1', '5 : 4', '4 : 3', '7 : 5', '3 : 2', '16 : 9'] as const
type Shape = (typeof SHAPES)[number]

/** Width by height of a shape that lies as the picture does; nothing where any will do. */
function ratioOf(shape: Shape, frames: { width: number; height: number }, upright: boolean): number | undefined {
  if (shape === 'free') return undefined
  const [a, b] = shape === 'frames' ? [Math.max(frames.width, frames.height), Math.min(frames.width, frames.height)] : shape.split(' : ').map(Number)
  return upright ? b / a : a / b
}

/** The largest part of that shape about the middle of another part. */
function shaped({ x, y, width, height }: { x: number; y: number; width: number; height: number }, ratio: number) {
  const wide = Math.round(Math.min(width, height * ratio))
  const high = Math.round(Math.min(height, width / ratio))
  return { x: Math.round(x + (width - wide) / 2), y: Math.round(y + (height - high) / 2), width: wide, height: high }
}

/** The crop on the picture, with handles. */
function Frame({ step, onStep, times, width, height, covered = { x: 0, y: 0, width, height } }: OverlayProps<'crop'>) {
  const rect = useRef<Konva.Rect>(null)
  const handles = useRef<Konva.Transformer>(null)
  useEffect(() => {
    if (rect.current) handles.current?.nodes([rect.current])
  }, [])
  const kept = (node: Konva.Node) => {
    const wide = Math.min(covered.width, Math.max(8, Math.round((node.width() * node.scaleX()) / times)))
    const high = Math.min(covered.height, Math.max(8, Math.round((node.height() * node.scaleY()) / times)))
    node.scale({ x: 1, y: 1 })
    const held = (at: number, least: number, most: number) => Math.min(most, Math.max(least, Math.round(at / times)))
    const x = held(node.x(), covered.x, covered.x + covered.width - wide)
    const y = held(node.y(), covered.y, covered.y + covered.height - high)
    onStep({ ...step, x, y, width: wide, height: high })
  }
  const [left, top, right, bottom] = [step.x, step.y, step.x + step.width, step.y + step.height].map((at) => at * times)
  const [all, down] = [width * times, height * times]
  const veil = { fill: '#222', opacity: 0.6, listening: false }
  return (
    <>
      <Rect {...veil} width={all} height={top} />
      <Rect {...veil} y={bottom} width={all} height={down - bottom} />
      <Rect {...veil} y={top} width={left} height={bottom - top} />
      <Rect {...veil} x={right} y={top} width={all - right} height={bottom - top} />
      {covered.width * covered.height < width * height && (
        <Rect
          x={covered.x * times}
          y={covered.y * times}
          width={covered.width * times}
          height={covered.height * times}
          stroke="#fff"
          strokeWidth={1}
          dash={[6, 5]}
          listening={false}
        />
      )}
      <Rect
        ref={rect}
        x={left}
        y={top}
        width={right - left}
        height={bottom - top}
        stroke="#fff"
        strokeWidth={1}
        strokeScaleEnabled={false}
        draggable
        onDragEnd={({ target }) => kept(target)}
        onTransformEnd={({ target }) => kept(target)}
      />
      <Transformer
        ref={handles}
        rotateEnabled={false}
        flipEnabled={false}
        keepRatio={false}
        anchorFill="#fff"
        anchorStroke="#222"
        borderStroke="#fff"
        boundBoxFunc={(before, after) =>
          after.x < -1 || after.y < -1 || after.x + after.width > all + 1 || after.y + after.height > down + 1 ? before : after
        }
      />
    </>
  )
}

export const crop: Editor<'crop'> = {
  before: true,
  Fields: ({ step, onStep, frames, covered }) => (
    <>
      {covered && <p>Beyond the dashed line not every frame shows something. The crop stays within it.</p>}
      <p>
        Drag the frame or its handles. {step.width} × {step.height} px.
      </p>
      <Select
        aria-label="Shape of the crop"
        placeholder="Bring it to a shape"
        style={{ width: '100%' }}
        value={null}
        onChange={(shape: Shape) => {
          const ratio = ratioOf(shape, frames, step.height > step.width)
          if (ratio) onStep({ ...step, ...shaped(step, ratio) })
        }}
        options={SHAPES.filter((shape) => shape !== 'free').map((shape) => ({ value: shape, label: shape === 'frames' ? 'As the frames' : shape }))}
      />
    </>
  ),
  Overlay: Frame,
}

/** A line along what should be level or upright. */
function Plumb({ step, onStep, times, width, height }: OverlayProps<'straighten'>) {
  const [line, setLine] = useState<{ from: Place; to: Place }>()
  const at = (target: Konva.Node): Place => {
    const { x, y } = target.getStage()!.getPointerPosition()!
    return [x, y]
  }
  const end = () => {
    if (line) {
      const [dx, dy] = [line.to[0] - line.from[0], line.to[1] - line.from[1]]
      if (Math.hypot(dx, dy) > 20) {
        const angle = (Math.atan2(dy, dx) * 180) / Math.PI
        const off = angle - 90 * Math.round(angle / 90)
        onStep({ ...step, degrees: Math.max(-45, Math.min(45, Number((-off).toFixed(2)))) })
      }
    }
    setLine(undefined)
  }
  return (
    <>
      {line && <Line points={[...line.from, ...line.to]} stroke="#fff" strokeWidth={2} shadowColor="#000" shadowBlur={3} listening={false} />}
      <Rect
        width={width * times}
        height={height * times}
        onMouseDown={({ target }) => setLine({ from: at(target), to: at(target) })}
        onMouseMove={({ target }) => setLine((before) => before && { ...before, to: at(target) })}
        onMouseUp={end}
        onTouchStart={({ target }) => setLine({ from: at(target), to: at(target) })}
        onTouchMove={({ target }) => setLine((before) => before && { ...before, to: at(target) })}
        onTouchEnd={end}
      />
    </>
  )
}

export const straighten: Editor<'straighten'> = {
  before: true,
  Fields: ({ step, onStep }) => (
    <>
      <p>Draw along what should be level or upright; close the step to see it turned.</p>
      <Amount
        label="Degrees"
        text={step.degrees === 0 ? 'Not turned' : `${Math.abs(step.degrees)}° to the ${step.degrees < 0 ? 'left' : 'right'}`}
        value={step.degrees}
        min={-15}
        max={15}
        step={0.1}
        onValue={(degrees) => onStep({ ...step, degrees }, 'degrees')}
      />
    </>
  ),
  Overlay: Plumb,
}

export const size: Editor<'size'> = {
  Fields: ({ step, onStep, width, height }) => {
    const print = 'width_mm' in step
    const to = sizeText(step, width, height)
    return (
      <>
        <Select
          aria-label="What the size is for"
          style={{ width: '100%' }}
          value={print ? 'print' : 'screen'}
          onChange={(kind) =>
            onStep(
              kind === 'print'
                ? { do: 'size', width_mm: Math.round((width / 300) * 25.4), perInch: 300 }
                : { do: 'size', long_px: Math.min(2400, Math.max(width, height)) },
            )
          }
          options={[
            { value: 'screen', label: 'Long edge in pixels' },
            { value: 'print', label: 'Width on paper' },
          ]}
        />
        {print ? (
          <div className={styles.pair}>
            <InputNumber
              aria-label="Width on paper"
              min={5}
              max={20000}
              suffix="mm"
              value={step.width_mm}
              onChange={(width_mm) => width_mm && onStep({ ...step, width_mm }, 'width')}
            />
            <InputNumber
              aria-label="Pixels per inch"
              min={20}
              max={2400}
              suffix="px per inch"
              value={step.perInch}
              onChange={(perInch) => perInch && onStep({ ...step, perInch }, 'perInch')}
            />
          </div>
        ) : (
          <InputNumber
            aria-label="Long edge"
            min={16}
            max={30000}
            suffix="px"
            value={step.long_px}
            onChange={(long_px) => long_px && onStep({ ...step, long_px: Math.round(long_px) }, 'long')}
          />
        )}
        <p>{to}</p>
      </>
    )
  },
}

/** What a size comes to, and whether pixels are made up. */
export function sizeText(size: Parameters<typeof sizeOf>[0], width: number, height: number): string {
  const to = sizeOf(size, width, height)
  const times = to.width / width
  const text = `${to.width} × ${to.height} px`
  if (times > 1.005) return `${text}: enlarged ${times.toFixed(1)} times, which shows nothing new.`
  return times < 0.995 ? `${text}: ${Math.round(100 * times)} % of what there is.` : `${text}: as it is.`
}
