'use client'

import { useMemo } from 'react'
import { railStep_mm } from '@/core/kit'
import { directionAdvice } from '@/core/plan'
import { adviceOnMover, OTHER_RAIL, SHEET_MOVERS } from '@/core/sheet'
import { useUnits } from '../../units'
import { usePlan } from '../planStore'
import { Hint, LengthField, NumberField, RadioField, SelectField } from './Field'

const MOVERS = Object.entries(SHEET_MOVERS).map(([value, { label }]) => ({ value, label }))

const OTHER = { value: OTHER_RAIL, label: 'Another rail, by its smallest step' }

const GRAVITY = [
  { value: 'level', label: 'level' },
  { value: 'down', label: 'steep, camera pointing down' },
  { value: 'up', label: 'steep, camera pointing up' },
]

const DIRECTIONS = [
  { value: 'near', label: 'near end first' },
  { value: 'far', label: 'far end first' },
]

/** What moves the focus, and which way. */
export function MoverInputs() {
  const kit = usePlan((state) => state.kit)
  const kind = usePlan(({ sheet }) => sheet.kind)
  const mover = usePlan(({ sheet }) => sheet.mover)
  const railName = usePlan(({ sheet }) => sheet.rail)
  const { length } = useUnits()
  const rail = kit.rails.find(({ name }) => name === railName)
  const rails = useMemo(() => [...kit.rails.map(({ name }) => ({ value: name, label: name })), OTHER], [kit])
  return (
    <fieldset>
      <legend>Mover</legend>
      {kind === 'depth' && (
        <>
          <RadioField name="mover" label="What moves the focus" options={MOVERS} />
          <Hint of={({ shown, sheet }) => shown && adviceOnMover(shown, sheet)?.reason} />
          {mover === 'rail' && (
            <>
              <SelectField
                name="rail"
                label="Rail"
                options={rails}
                hint={rail && `Smallest step ${length(railStep_mm(rail))}, travel ${length(rail.length_mm)}.`}
              />
              {railName === OTHER_RAIL && <NumberField name="resolution_mm" label="Smallest step of the rail" unit="mm" step={0.005} />}
              {rail?.kind === 'ruler' && <LengthField name="railStart_mm" label="Ruler at the first frame" />}
              <SelectField name="gravity" label="Rail angle" options={GRAVITY} />
            </>
          )}
          <Hint of={({ shown, sheet }) => (sheet.mover === 'bracketing' ? shown?.step?.text : shown?.told?.text)} />
        </>
      )}
      <RadioField name="direction" label="Which end first" options={DIRECTIONS} />
      <Hint of={({ shown, sheet }) => shown && directionAdvice(shown.request, sheet.gravity).reason.text} />
    </fieldset>
  )
}
