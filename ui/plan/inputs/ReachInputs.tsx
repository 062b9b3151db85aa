'use client'

import { Button, Select } from 'antd'
import dynamic from 'next/dynamic'
import { useState } from 'react'
import type { Attachment, AttachmentKind } from '@/core/kit'
import { nearestExtension, sheetForSize, type PlanSheet } from '@/core/sheet'
import { significant } from '@/core/units'
import { NumberInput } from '../../forms'
import { useUnits } from '../../units'
import { usePlan } from '../planStore'
import { Hint, LengthField, NumberField, SelectField } from './Field'
import styles from './inputs.module.css'

const RulerMeasure = dynamic(() => import('./RulerMeasure').then((part) => part.RulerMeasure), { ssr: false })

const REACHES = [
  { value: 'lens', label: 'The lens by itself' },
  { value: 'ruler', label: 'Measured with a ruler' },
  { value: 'distance', label: 'From the distance' },
  { value: 'extension', label: 'Tubes or bellows' },
  { value: 'closeUp', label: 'Close-up lens' },
  { value: 'reversed', label: 'Reversed lens' },
  { value: 'faceToFace', label: 'Two lenses face to face' },
  { value: 'objective', label: 'Microscope objective' },
]

/** How the subject's size in the picture is reached, with what that way needs to know. */
export function ReachInputs() {
  const reach = usePlan(({ sheet }) => sheet.reach)
  return (
    <>
      <SelectField name="reach" label="Set the size with" options={REACHES} />
      {FIELDS[reach]}
      {reach !== 'lens' && <WantedSize />}
      {reach !== 'lens' && <Hint of={({ shown }) => shown && `${significant(shown.plan.magnification, 3)} : 1 in the picture`} />}
    </>
  )
}

/** The way round: a size wanted, and what to set for it; for tubes, which of the kit come nearest. */
function WantedSize() {
  const [wanted, setWanted] = useState<number | null>(null)
  const sheet = usePlan((state) => state.sheet)
  const kit = usePlan((state) => state.kit)
  const change = usePlan((state) => state.change)
  const { length } = useUnits()
  const asked = (size: number | null) => {
    setWanted(size)
    const set = size !== null && size > 0 ? sheetForSize(size, sheet, kit) : undefined
    if (set) change(set)
  }
  const reachable = wanted === null || !(wanted > 0) || sheetForSize(wanted, sheet, kit) !== undefined
  const tubes = sheet.reach === 'extension' && wanted && sheet.extension_mm ? nearestExtension(sheet.extension_mm, kit) : undefined
  return (
    <div className={styles.field}>
      <label htmlFor="plan-wanted">Or say the size you want</label>
      <NumberInput id="plan-wanted" value={wanted} onChange={asked} step={0.1} suffix=": 1" placeholder="such as 2" />
      {!reachable && (
        <p role="alert" className={styles.error}>
          This lens is larger than that already. Choose a larger size, or another way.
        </p>
      )}
      {tubes && (
        <p className={styles.hint}>
          From the kit: {tubes.items.join(' + ')}, {length(tubes.extension_mm)}.{' '}
          {tubes.extension_mm !== sheet.extension_mm && (
            <Button size="small" onClick={() => change({ extension_mm: tubes.extension_mm })}>
              Use these
            </Button>
          )}
        </p>
      )}
    </div>
  )
}

const FIELDS: Record<PlanSheet['reach'], React.ReactNode> = {
  lens: <NumberField name="magnification" label="Magnification" unit=": 1" step={0.1} />,
  ruler: (
    <>
      <LengthField name="acrossFrame_mm" label="Length of ruler across the frame" />
      <RulerMeasure />
    </>
  ),
  distance: <LengthField name="distance_mm" label="From the sensor mark to the near edge" scale="far" />,
  extension: (
    <>
      <FromKit
        kinds={['tube', 'bellows']}
        label="Add from the kit"
        take={({ extension_mm, longest_mm }, sheet) => ({ extension_mm: (sheet.extension_mm ?? 0) + (extension_mm ?? longest_mm ?? 0) })}
      />
      <div className={styles.pair}>
        <LengthField name="extension_mm" label="Extension" />
        <NumberField name="baseMagnification" label="Lens set to" unit=": 1" step={0.1} hint="0 at infinity" />
      </div>
    </>
  ),
  closeUp: (
    <>
      <FromKit kinds={['closeUp']} label="From the kit" take={({ focalLength_mm }) => ({ closeUpFocalLength_mm: focalLength_mm })} />
      <LengthField name="closeUpFocalLength_mm" label="Focal length of the close-up lens" hint="1000 mm over its dioptres" />
    </>
  ),
  reversed: (
    <>
      <FromKit
        kinds={['reverser', 'tube', 'bellows']}
        label="Add from the kit"
        take={({ extension_mm, longest_mm }, sheet) => ({ extension_mm: (sheet.extension_mm ?? 0) + (extension_mm ?? longest_mm ?? 0) })}
      />
      <LengthField name="extension_mm" label="Ring and tubes behind it" hint="This is an estimate. Measure it with a ruler once it is set up." />
    </>
  ),
  faceToFace: (
    <div className={styles.pair}>
      <LengthField name="frontFocalLength_mm" label="Front lens, reversed" />
      <NumberField name="frontFNumber" label="Its aperture" unit="f-number" step={0.5} />
    </div>
  ),
  objective: (
    <>
      <FromKit
        kinds={['objective']}
        label="From the kit"
        take={({ designMagnification, designTube_mm, numericalAperture }) => ({
          designMagnification,
          designTube_mm,
          tube_mm: designTube_mm,
          numericalAperture,
        })}
      />
      <div className={styles.pair}>
        <NumberField name="designMagnification" label="Engraved" unit=": 1" />
        <NumberField name="numericalAperture" label="Aperture NA" step={0.01} />
        <LengthField name="designTube_mm" label="Made for tube of" />
        <LengthField name="tube_mm" label="Tube lens in use" />
      </div>
    </>
  ),
}

interface FromKitProps {
  kinds: AttachmentKind[]
  label: string
  take: (item: Attachment, sheet: PlanSheet) => Partial<PlanSheet>
}

/** Fills the fields from an attachment of the kit; what is filled in stays to be changed. */
function FromKit({ kinds, label, take }: FromKitProps) {
  const sheet = usePlan((state) => state.sheet)
  const change = usePlan((state) => state.change)
  const items = usePlan((state) => state.kit).attachments.filter(({ kind }) => kinds.includes(kind))
  if (items.length === 0) return null
  return (
    <div className={styles.field}>
      <Select
        aria-label={label}
        value={null}
        placeholder={label}
        options={items.map(({ name }) => ({ value: name, label: name }))}
        onChange={(name: string | null) => {
          const item = items.find((known) => known.name === name)
          if (item) change(take(item, sheet))
        }}
        className={styles.wide}
      />
    </div>
  )
}
