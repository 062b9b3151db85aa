import { measuredPupil, playOf, strideByScale } from '@/core/plan'
import { significant } from '@/core/units'
import type { RenderDetail, RunDetail } from '@/schemas'
import { useKit } from '../api'
import { useUnits } from '../units'
import { useStoredPlan } from '../useStoredPlan'
import { KeepInKit } from './KeepInKit'

interface Props {
  run: RunDetail
  render: RenderDetail
}

/** What a run on a rail tells beside its stride: the pupil ratio of the lens, and the play of the screw; and the way to keep them. */
export function RailFacts({ run, render: { report } }: Props) {
  const { request } = useStoredPlan(run)
  const { data: kit } = useKit()
  const { length } = useUnits()
  const used = report.frames.filter(({ role }) => role !== 'left out')
  const placed = used.flatMap(({ file, scale }) => {
    const position_mm = run.frames.find(({ name }) => name === file)?.position_mm ?? undefined
    return position_mm === undefined ? [] : [{ position_mm, scale }]
  })
  const pupil = request && placed.length === used.length ? measuredPupil(placed, request) : undefined
  const lens = run.sheet?.reach === 'lens' ? kit?.lenses.find(({ name }) => name === run.sheet!.lens) : undefined
  const rail = run.setting?.kind === 'rail' ? kit?.rails.find(({ name }) => name === (run.setting as { rail: string }).rail) : undefined
  const stride = request && rail && strideByScale(used, request)
  // The order in which they were shot: a screw's play is taken up by the first step.
  const play_mm = stride && playOf(run.sheet?.direction === 'far' ? stride.positions_mm.toReversed() : stride.positions_mm)
  const [ratio, play] = [pupil && Number(significant(pupil.ratio, 3)), play_mm && Number(significant(play_mm, 2))]
  return (
    <>
      {pupil && (
        <>
          <dt>Pupil ratio</dt>
          <dd>
            {significant(pupil.ratio, 3)} ± {significant(pupil.spread, 1)}
          </dd>
          {lens && <KeepInKit shelf="lenses" item={{ ...lens, pupilRatio: ratio! }} kept={lens.pupilRatio === ratio} {...withItem(lens.name)} />}
        </>
      )}
      {play_mm !== undefined && rail && (
        <>
          <dt>Play of the screw</dt>
          <dd>{length(play_mm)}: the first step fell short</dd>
          <KeepInKit shelf="rails" item={{ ...rail, backlash_mm: play! }} kept={rail.backlash_mm === play} {...withItem(rail.name)} />
        </>
      )}
    </>
  )
}

/** What is kept with an item of the kit. */
const withItem = (name: string) => ({
  label: `Save it with ${name}`,
  keptText: `as the kit has it for ${name}`,
  saved: `Saved with ${name}. New plans use it.`,
})
