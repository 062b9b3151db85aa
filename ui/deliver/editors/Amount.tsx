import { Slider } from 'antd'
import { depthCss } from '@/core/ramp'
import styles from '../deliver.module.css'

interface Props {
  label: string
  text: string
  value: number
  min: number
  max: number
  step: number
  onValue: (value: number) => void
}

/** One amount with its sentence, changed by a handle or the arrow keys. */
export function Amount({ label, text, value, min, max, step, onValue }: Props) {
  return (
    <div className={styles.amount}>
      <span>{text}</span>
      <Slider
        min={min}
        max={max}
        step={step}
        value={value}
        onChange={onValue}
        ariaLabelForHandle={label}
        tooltip={{ open: false }}
        styles={{ rail: { background: '#9a9a9a' }, track: { background: '#f4f4f4' } }}
      />
    </div>
  )
}

/** Stops in words. */
const stopsWords = (stops: number) => (stops === 0 ? 'as it is' : `${Math.abs(stops).toFixed(1)} stops ${stops < 0 ? 'darker' : 'lighter'}`)

/** So many stops lighter or darker. */
export function Stops({ label, stops, most, onStops }: { label: string; stops: number; most: number; onStops: (stops: number) => void }) {
  return <Amount label={label} text={stopsWords(stops)} value={stops} min={-most} max={most} step={0.1} onValue={onStops} />
}

const COLOURS = [0, 0.25, 0.5, 0.75, 1].map((depth) => `${depthCss(depth)} ${100 * depth}%`).join(', ')

/** Two handles on the ribbon of depth, 0 … 1. */
export function DepthRange({
  near,
  far,
  labels,
  onRange,
}: {
  near: number
  far: number
  labels: [string, string]
  onRange: (near: number, far: number) => void
}) {
  return (
    <Slider
      range
      min={0}
      max={1}
      step={0.01}
      value={[near, far]}
      onChange={([a, b]) => onRange(a, b)}
      ariaLabelForHandle={labels}
      tooltip={{ open: false }}
      styles={{
        rail: { background: `linear-gradient(to right, ${COLOURS})`, height: 8 },
        track: { background: 'rgb(255 255 255 / 45%)', height: 8 },
      }}
    />
  )
}
