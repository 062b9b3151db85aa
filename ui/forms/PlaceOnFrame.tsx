import { Slider } from 'antd'
import type { MouseEvent } from 'react'
import { thumbAddress } from '../thumbAddress'
import styles from './placeOnFrame.module.css'

/** A place in parts of a frame's width and height. */
export type FramePlace = [across: number, down: number]

interface Props {
  frame: { id: number; uid: string; name: string }
  /** Of the frame, so that its place is kept before it comes. */
  width: number
  height: number
  /** What is pointed at, such as "card". */
  what: string
  at?: FramePlace
  onPlace: (place: FramePlace) => void
}

/** A place that is chosen on a frame, by a click or by the arrow keys. */
export function PlaceOnFrame({ frame, width, height, what, at, onPlace }: Props) {
  const [x, y] = at ?? [0.5, 0.5]
  const onPicture = ({ currentTarget, clientX, clientY }: MouseEvent) => {
    const { left, top, width: across, height: down } = currentTarget.getBoundingClientRect()
    onPlace([(clientX - left) / across, (clientY - top) / down])
  }
  return (
    <>
      <div className={styles.frame} onClick={onPicture} data-testid={`${what}-frame`}>
        <img width={width} height={height} src={thumbAddress(frame)} alt={`${frame.name}, to click on the ${what}`} />
        {at && <i style={{ left: `${100 * x}%`, top: `${100 * y}%` }} />}
      </div>
      {(['across', 'down'] as const).map((way, axis) => (
        <div key={way} className={styles.way}>
          <span>{at ? `${Math.round(100 * at[axis])} % ${way}` : way}</span>
          <Slider
            min={0}
            max={100}
            step={1}
            value={100 * [x, y][axis]}
            onChange={(percent) => onPlace(axis === 0 ? [percent / 100, y] : [x, percent / 100])}
            ariaLabelForHandle={`Place of the ${what}, ${way}`}
            tooltip={{ open: false }}
            styles={{ rail: { background: '#9a9a9a' }, track: { background: '#9a9a9a' } }}
          />
        </div>
      ))}
    </>
  )
}
