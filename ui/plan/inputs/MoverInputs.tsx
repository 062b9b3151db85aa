'use client'

import { railStep_mm } from '@/core/kit'
import { directionAdvice } from '@/core/plan'
import { adviceOnMover, OTHER_RAIL } from '@/core/sheet'
import { useUnits } from '../../units'
import { useSheet } from '../usePlanSheet'
import { LengthField, NumberField, RadioField, SelectField } from './Field'
import styles from './inputs.module.css'

const DIRECTIONS = [
  { value: 'near', label: 'near end first' },
  { value: 'far', label: 'far end first' },
]

/** What moves the focus, and which way. */
export function MoverInputs() {
  const { sheet, kit, shown } = useSheet()
  const { length } = useUnits()
  const rail = kit.rails.find(({ name }) => name === sheet.rail)
  const advice = shown && adviceOnMover(shown, sheet)
  const direction = shown && directionAdvice(shown.request, sheet.gravity)
  return (
    <fieldset>
      <legend>Mover</legend>
      {sheet.kind === 'depth' && (
        <>
          <RadioField
            name="mover"
            label="What moves the focus"
            options={[
              { value: 'rail', label: 'Rail' },
              { value: 'ring', label: 'Focus ring' },
              { value: 'bracketing', label: 'The body’s own' },
            ]}
          />
          {advice && <p className={styles.hint}>{advice.reason}</p>}
          {sheet.mover === 'rail' && (
            <>
              <SelectField
                name="rail"
                label="Rail"
                options={[
                  ...kit.rails.map(({ name }) => ({ value: name, label: name })),
                  { value: OTHER_RAIL, label: 'Another, by its smallest step' },
                ]}
                hint={rail && `Moves ${length(railStep_mm(rail))} at the least, ${length(rail.length_mm)} in all.`}
              />
              {sheet.rail === OTHER_RAIL && <NumberField name="resolution_mm" label="Smallest step of the rail" unit="mm" step={0.005} />}
              {rail?.kind === 'ruler' && <LengthField name="railStart_mm" label="Ruler at the first frame" />}
              <SelectField
                name="gravity"
                label="The rail lies"
                options={[
                  { value: 'level', label: 'level' },
                  { value: 'down', label: 'steep, camera pointing down' },
                  { value: 'up', label: 'steep, camera pointing up' },
                ]}
              />
            </>
          )}
          {sheet.mover === 'bracketing' && shown?.step && <p className={styles.hint}>{shown.step.text}</p>}
        </>
      )}
      <RadioField name="direction" label="Which end first" options={DIRECTIONS} />
      {direction && <p className={styles.hint}>{direction.reason}</p>}
    </fieldset>
  )
}
