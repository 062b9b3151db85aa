import { measuredBreathing } from '@/core/plan'
import { significant } from '@/core/units'
import type { RenderDetail, RunDetail } from '@/schemas'
import { useKit } from '../api'
import { useStoredPlan } from '../useStoredPlan'
import { KeepInKit } from './KeepInKit'

interface Props {
  run: RunDetail
  render: RenderDetail
}

/** What the series tells of the lens: how much it breathes, and the way to keep that with the lens for the next plan. */
export function BreathingFact({ run, render: { report } }: Props) {
  const { request } = useStoredPlan(run)
  const { data: kit } = useKit()
  const focused = report.frames.flatMap(({ file, role, scale }) => {
    const position_mm = run.frames.find(({ name }) => name === file)?.position_mm ?? undefined
    return role === 'left out' || position_mm === undefined ? [] : [{ scale, position_mm }]
  })
  const breathing = request && measuredBreathing(focused, request)
  if (!breathing) return null
  const times = Number(significant(breathing.times, 3))
  // Behind a tube or a close-up lens it is the two together that breathe.
  const byItself = run.sheet && (run.sheet.kind === 'range' || run.sheet.reach === 'lens')
  const lens = byItself ? kit?.lenses.find(({ name }) => name === run.sheet!.lens) : undefined
  return (
    <>
      <dt>Breathing</dt>
      <dd>
        {significant(breathing.scale_percent, 2)} %, {times} × a thin lens
      </dd>
      {lens && (
        <KeepInKit
          shelf="lenses"
          item={{ ...lens, breathing: times }}
          kept={lens.breathing === times}
          label={`Save it with ${lens.name}`}
          keptText={`saved with ${lens.name}`}
          saved={`Saved with ${lens.name}. New plans allow for the edge it costs.`}
        />
      )}
    </>
  )
}
