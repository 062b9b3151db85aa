import { Checkbox, Select, Slider } from 'antd'
import { PREFERENCES, type Preference } from '@/core/fuse/tuning'
import type { Tried } from './tried'
import styles from '../result.module.css'

type Tuned = Omit<Tried, 'style'>

interface Props {
  tuned: Tuned
  count: number
  disabled: boolean
  onTune: (tuned: Tuned) => void
  /** What does not count as detail is shown dark. */
  veil: boolean
  onVeil: (on: boolean) => void
}

const PREFERENCE_WORDS: Record<Preference, string> = {
  none: 'Of two depths, both count',
  near: 'Of two depths, the near one',
  far: 'Of two depths, the far one',
}

/** What a style leaves open: each is tried at once on the part in view. */
export function Tuner({ tuned, count, disabled, onTune, veil, onVeil }: Props) {
  const { prefer = 'none', boundary = 0.5, neighbourhood = 1, floor = 1, sharp = { from: 1, to: count } } = tuned
  const change = (part: Tuned) => onTune({ ...tuned, ...part })
  return (
    <details className={styles.tuner}>
      <summary>Tune it</summary>
      <Select
        aria-label="Where two depths are sharp"
        value={prefer}
        disabled={disabled}
        onChange={(value) => change({ prefer: value })}
        style={{ width: '100%' }}
        options={PREFERENCES.map((value) => ({ value, label: PREFERENCE_WORDS[value] }))}
      />
      <Choice text={`Borders between frames: ${boundary === 0.5 ? 'as the style has them' : boundary < 0.5 ? 'harder' : 'softer'}`}>
        <Slider
          min={0}
          max={1}
          step={0.1}
          defaultValue={boundary}
          disabled={disabled}
          ariaLabelForHandle="Softness of borders between frames"
          tooltip={{ placement: 'bottom' }}
          onChangeComplete={(value) => change({ boundary: value })}
        />
      </Choice>
      <Choice text={`Sharpness is gathered ${['closely', 'a little around', 'around', 'widely around'][neighbourhood - 1]}`}>
        <Slider
          min={1}
          max={4}
          defaultValue={neighbourhood}
          disabled={disabled}
          ariaLabelForHandle="How far around sharpness is gathered"
          onChangeComplete={(value) => change({ neighbourhood: value })}
        />
      </Choice>
      <Choice text={`Detail begins at ${floor} × the noise`}>
        <Slider
          min={-2}
          max={5}
          step={0.5}
          defaultValue={Math.log2(floor)}
          disabled={disabled}
          ariaLabelForHandle="What counts as detail"
          tooltip={{ placement: 'bottom', formatter: (value) => `${(2 ** (value ?? 0)).toFixed(1)} × noise` }}
          onChangeComplete={(value) => change({ floor: Number((2 ** value).toFixed(2)) })}
        />
        <Checkbox checked={veil} disabled={disabled} style={{ color: 'inherit' }} onChange={({ target }) => onVeil(target.checked)}>
          Darken what does not count as detail
        </Checkbox>
      </Choice>
      <Choice
        text={
          sharp.from === 1 && sharp.to === count ? 'Sharp in every slice' : `Sharp from slice ${sharp.from} to ${sharp.to}; the rest keeps its blur`
        }
      >
        <Slider
          range
          min={1}
          max={count}
          defaultValue={[sharp.from, sharp.to]}
          disabled={disabled}
          ariaLabelForHandle={['First slice that is sharp', 'Last slice that is sharp']}
          onChangeComplete={([from, to]) => change({ sharp: from === 1 && to === count ? undefined : { from, to } })}
        />
      </Choice>
    </details>
  )
}

function Choice({ text, children }: { text: string; children: React.ReactNode }) {
  return (
    <div>
      <span>{text}</span>
      {children}
    </div>
  )
}
