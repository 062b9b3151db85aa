'use client'

import Link from 'next/link'
import { useMemo } from 'react'
import { usePlan } from '../planStore'
import { CheckField, NumberField, SelectField } from './Field'
import { ReachInputs } from './ReachInputs'
import styles from './inputs.module.css'

const named = (items: { name: string }[]) => items.map(({ name }) => ({ value: name, label: name }))

/** Body, lens, aperture, and how the size in the picture is reached. */
export function KitInputs() {
  const kit = usePlan((state) => state.kit)
  const shiftExposures = usePlan(({ sheet }) => kit.bodies.find(({ name }) => name === sheet.body)?.shiftExposures)
  const byDepth = usePlan(({ sheet }) => sheet.kind === 'depth')
  const objective = usePlan(({ sheet }) => sheet.kind === 'depth' && sheet.reach === 'objective')
  const options = useMemo(() => ({ bodies: named(kit.bodies), lenses: named(kit.lenses), lights: named(kit.lights) }), [kit])
  return (
    <fieldset>
      <legend>
        Kit{' '}
        <Link href="/kit" className={styles.legendLink}>
          change it
        </Link>
      </legend>
      <SelectField name="body" label="Body" options={options.bodies} />
      {shiftExposures && <CheckField name="sensorShift" label={`Sensor shift: ${shiftExposures} captures a frame, finer pixels`} />}
      {!objective && (
        <>
          <SelectField name="lens" label="Lens" options={options.lenses} />
          <NumberField name="fNumber" label="Aperture, as marked" unit="f-number" step={0.5} />
        </>
      )}
      {byDepth && <ReachInputs />}
      <SelectField name="light" label="Light" options={options.lights} />
    </fieldset>
  )
}
