import { Slider } from 'antd'
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
export const stopsWords = (stops: number) => (stops === 0 ? 'as it is' : `${Math.abs(stops).toFixed(1)} stops ${stops < 0 ? 'darker' : 'lighter'}`)
