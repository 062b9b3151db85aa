'use client'

import Link from 'next/link'
import { useSheet } from '../usePlanSheet'
import { CheckField, NumberField, SelectField } from './Field'
import { ReachInputs } from './ReachInputs'
import styles from './inputs.module.css'

const named = (items: { name: string }[]) => items.map(({ name }) => ({ value: name, label: name }))

/** Body, lens, aperture, and how the size in the picture is reached. */
export function KitInputs() {
  const { sheet, kit } = useSheet()
  const body = kit.bodies.find(({ name }) => name === sheet.body)
  const objective = sheet.kind === 'depth' && sheet.reach === 'objective'
  return (
    <fieldset>
      <legend>
        Kit{' '}
        <Link href="/kit" className={styles.legendLink}>
          change it
        </Link>
      </legend>
      <SelectField name="body" label="Body" options={named(kit.bodies)} />
      {body?.shiftExposures && <CheckField name="sensorShift" label={`Sensor shift: ${body.shiftExposures} captures a frame, finer pixels`} />}
      {!objective && (
        <>
          <SelectField name="lens" label="Lens" options={named(kit.lenses)} />
          <NumberField name="fNumber" label="Aperture, as marked" unit="f-number" step={0.5} />
        </>
      )}
      {sheet.kind === 'depth' && <ReachInputs />}
      <SelectField name="light" label="Light" options={named(kit.lights)} />
    </fieldset>
  )
}
