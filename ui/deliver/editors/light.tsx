import { Amount, Stops } from './Amount'
import type { Editor } from './editor'

export const light: Editor<'light'> = {
  Fields: ({ step, onStep }) => (
    <Stops label="Stops lighter or darker" stops={step.stops} most={3} onStops={(stops) => onStep({ ...step, stops }, 'stops')} />
  ),
}

export const colour: Editor<'colour'> = {
  Fields: ({ step, onStep }) => (
    <Amount
      label="Strength of colours"
      text={step.strength === 0 ? 'No colour' : `${Math.round(100 * step.strength)} % of the colours`}
      value={step.strength}
      min={0}
      max={2}
      step={0.05}
      onValue={(strength) => onStep({ ...step, strength }, 'strength')}
    />
  ),
}
