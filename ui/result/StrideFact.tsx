import type { Calibration } from '@/core/kit'
import { strideByScale, type ScaledStride } from '@/core/plan'
import { dateText, significant } from '@/core/units'
import type { RenderDetail, RunDetail } from '@/schemas'
import { useKit } from '../api'
import { useUnits } from '../units'
import { useStoredPlan } from '../useStoredPlan'
import { KeepInKit } from './KeepInKit'

interface Props {
  run: RunDetail
  render: RenderDetail
}

/** How far the focus went from frame to frame, by the scale of the frames; and the way to keep what moved it so far for the next plan. */
export function StrideFact({ run, render: { report } }: Props) {
  const { plan, request } = useStoredPlan(run)
  const { data: kit } = useKit()
  const { length } = useUnits()
  const used = report.frames.filter(({ role }) => role !== 'left out')
  const stride = request && strideByScale(used, request)
  if (!stride || !plan) return null
  const calibration = calibrationOf(run, stride, plan.magnification)
  const kept = calibration && kit?.calibrations.some((other) => other.name === calibration.name && other.stride_mm === calibration.stride_mm)
  return (
    <>
      <dt>Stride, measured</dt>
      <dd>
        {length(stride.mean_mm)}
        {stride.spreadKnown ? ' ± ' : ', even to within '}
        {significant((100 * stride.spread_mm) / stride.mean_mm, 2)} %
      </dd>
      {calibration && (
        <KeepInKit
          shelf="calibrations"
          item={calibration}
          kept={kept ?? false}
          label={`Save it for ${SAVED_FOR[calibration.kind](calibration)}`}
          keptText="saved with the kit"
          saved="Saved with the kit. New plans use it."
        />
      )}
    </>
  )
}

const SAVED_FOR: { [K in Calibration['kind']]: (of: Calibration) => string } = {
  step: ({ step }) => `step ${step}`,
  rail: ({ rail }) => rail!,
  click: ({ clicks }) => `${significant(clicks!, 2)} clicks`,
}

/** What the kit keeps of a stride; undefined where it does not hang on a number that can be set again. */
function calibrationOf({ sheet, setting, created_at }: RunDetail, stride: ScaledStride, magnification: number): Calibration | undefined {
  if (!sheet || !setting) return undefined
  const measured = { stride_mm: Number(significant(stride.mean_mm, 3)), spread_mm: Number(significant(stride.spread_mm, 2)) }
  const { lens, body } = sheet
  const date = dateText(created_at)
  switch (setting.kind) {
    case 'step': {
      const { step } = setting
      const name = `Step ${step}, ${lens}, f/${sheet.fNumber} at ${significant(magnification, 3)} : 1, ${date}`
      const at = { fNumber: Number(sheet.fNumber), magnification: Number(significant(magnification, 4)) }
      return { name, kind: 'step', body, lens, step, ...at, ...measured }
    }
    case 'rail': {
      const { rail, dial_mm } = setting
      const by = Number(significant(dial_mm, 4))
      return { name: `${rail}, ${by} mm by its dial, ${date}`, kind: 'rail', rail, dial_mm: by, ...measured }
    }
    case 'click': {
      const clicks = Number(significant(setting.clicks, 3))
      const at = Number(significant(setting.magnification, 4))
      return { name: `${clicks} clicks, ${lens} at ${significant(at, 3)} : 1, ${date}`, kind: 'click', lens, clicks, magnification: at, ...measured }
    }
  }
}
