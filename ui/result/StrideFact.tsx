import { Button } from 'antd'
import { strideByScale } from '@/core/plan'
import { dateText, significant } from '@/core/units'
import type { RenderDetail, RunDetail } from '@/schemas'
import { useKit, useSaveKitItem } from '../api'
import { message } from '../messages'
import { useUnits } from '../units'
import { useStoredPlan } from '../useStoredPlan'

interface Props {
  run: RunDetail
  render: RenderDetail
}

/** How far the focus went from frame to frame, by the scale of the frames; and the way to keep a step number's length for the next plan. */
export function StrideFact({ run, render: { report } }: Props) {
  const { plan, request } = useStoredPlan(run)
  const { data: kit } = useKit()
  const save = useSaveKitItem()
  const { length } = useUnits()
  const scales = report.frames.flatMap(({ role, scale }) => (role === 'left out' ? [] : [scale]))
  const stride = request && strideByScale(scales, request)
  if (!stride || !plan) return null
  const { sheet, step } = run
  const stride_mm = Number(significant(stride.mean_mm, 3))
  const calibration = sheet &&
    step !== null && {
      name: `Step ${step}, ${sheet.lens}, f/${sheet.fNumber} at ${significant(plan.magnification, 3)} : 1, ${dateText(run.created_at)}`,
      body: sheet.body,
      lens: sheet.lens,
      fNumber: Number(sheet.fNumber),
      magnification: Number(significant(plan.magnification, 4)),
      step,
      stride_mm,
      spread_mm: Number(significant(stride.spread_mm, 2)),
    }
  const kept = calibration && kit?.calibrations.some((other) => other.name === calibration.name && other.stride_mm === stride_mm)
  const keep = (item: NonNullable<typeof calibration> & object) =>
    save.mutate(
      { shelf: 'calibrations', item },
      {
        onSuccess: () => void message.success('Saved with the kit. New plans use it.'),
        onError: (error) => void message.error(error.message),
      },
    )
  return (
    <>
      <dt>Stride, measured</dt>
      <dd>
        {length(stride.mean_mm)} ± {length(stride.spread_mm)}
      </dd>
      {calibration && (
        <dd>
          {kept ? (
            'saved with the kit'
          ) : (
            <Button size="small" loading={save.isPending} onClick={() => keep(calibration)}>
              Save it for step {step}
            </Button>
          )}
        </dd>
      )}
    </>
  )
}
