'use client'

import { criterionMeaning } from '@/core/plan'
import { usePlan } from '../planStore'
import { CheckField, Hint, LengthField, NumberField, SelectField } from './Field'
import styles from './inputs.module.css'

const CRITERIA = [
  { value: 'pixels', label: 'a number of pixels' },
  { value: 'print', label: 'a print at a viewing distance' },
  { value: 'coc', label: 'a given circle of confusion' },
]

/** How sharp is sharp enough, and how much neighbouring slices share. */
export function SharpnessInputs() {
  const criterion = usePlan(({ sheet }) => sheet.criterion)
  const counted = usePlan(({ sheet }) => (sheet.diffraction ? `counted, ${sheet.wavelength_nm ?? '…'} nm` : 'left out (classical figures)'))
  return (
    <fieldset>
      <legend>Sharpness</legend>
      <SelectField name="criterion" label="Sharp enough is" options={CRITERIA} />
      {criterion === 'pixels' && <NumberField name="blur_pixels" label="Blur allowed" unit="pixels" step={0.5} />}
      {criterion === 'coc' && <LengthField name="coc_mm" label="Circle of confusion" />}
      {criterion === 'print' && (
        <div className={styles.pair}>
          <LengthField name="printWidth_mm" label="Print width" />
          <LengthField name="viewingDistance_mm" label="Seen from" />
        </div>
      )}
      <Hint of={({ shown }) => shown && criterionMeaning(shown.request.sharpness, shown.request.camera)} />
      <NumberField name="overlap_percent" label="Overlap of neighbouring slices" unit="%" step={5} />
      <div className={styles.pair}>
        <NumberField name="leadIn_slices" label="Extra in front" unit="slices" step={0.5} />
        <NumberField name="runOut_slices" label="Extra behind" unit="slices" step={0.5} />
      </div>
      <details className={styles.aid}>
        <summary>Diffraction {counted}</summary>
        <CheckField name="diffraction" label="Count diffraction" />
        <NumberField name="wavelength_nm" label="Wavelength" unit="nm" step={10} />
      </details>
    </fieldset>
  )
}
