'use client'

import type { FuseReport, RenderDetail, RunDetail } from '@/schemas'
import { STIRRED } from '@/core/register'
import { significant } from '@/core/units'
import { BreathingFact } from './BreathingFact'
import { RailFacts } from './RailFacts'
import { StrideFact } from './StrideFact'
import type { NamedFrame } from '../namedFrames'
import styles from './result.module.css'

/** What a render was made of and by which settings. */
export function Facts({ render, run, frames }: { render: RenderDetail; run: RunDetail; frames: NamedFrame[] }) {
  const { report } = render
  const reference = frames.find(({ file }) => file === report.reference)
  const shift = Math.max(...report.frames.map(({ dx_px, dy_px }) => Math.hypot(dx_px, dy_px)))
  const parts = partsText(report)
  const captures = capturesText(report, frames)
  const scales = report.frames.map(({ scale }) => scale)
  const breathing = 100 * (Math.max(...scales) / Math.min(...scales) - 1)
  return (
    <section>
      <h2>How it was made</h2>
      <dl className={styles.facts}>
        <dt>Style</dt>
        <dd>{report.style}</dd>
        <dt>Frames</dt>
        <dd>
          {report.frames.length} {run.frames.length > report.frames.length && `of ${run.frames.length} `}in run {run.number}
        </dd>
        <dt>Reference</dt>
        <dd>{reference ? `frame ${reference.number}` : report.reference}</dd>
        <dt>Size</dt>
        <dd>
          {report.crop.width} × {report.crop.height} px
        </dd>
        {captures && (
          <>
            <dt>Captures</dt>
            <dd>{captures}</dd>
          </>
        )}
        <dt>Largest shift</dt>
        <dd>{significant(shift, 2)} px</dd>
        {parts && (
          <>
            <dt>Parts that moved</dt>
            <dd>{parts}</dd>
          </>
        )}
        <dt>Scale, over the series</dt>
        <dd>{significant(breathing, 2)} %</dd>
        <StrideFact run={run} render={render} />
        <BreathingFact run={run} render={render} />
        <RailFacts run={run} render={render} />
        <dt>Time</dt>
        <dd>{significant(report.timings_s.total, 2)} s</dd>
      </dl>
    </section>
  )
}

/** How many captures each frame was merged from, and where that was not done; nothing where each frame was one. */
function capturesText({ frames }: FuseReport, named: NamedFrame[]): string | undefined {
  const taken = Math.max(0, ...frames.map(({ captures }) => captures?.taken ?? 0))
  if (taken === 0) return undefined
  const alone = frames.filter(({ captures }) => !captures || captures.used < taken)
  if (alone.length === 0) return `${taken} merged for each frame`
  const numbers = alone.map(({ file }) => named.find((frame) => frame.file === file)?.number ?? file)
  return `${taken} merged for each frame; of ${numbers.join(', ')} only one is used, as something moved between them`
}

/** What became of parts that moved on their own; nothing in reports of older renders, which did not ask. */
function partsText({ frames, parts = [] }: FuseReport): string | undefined {
  if (parts.length > 0) return `${parts.length} ${parts.length === 1 ? 'part' : 'parts'} shown from one frame each`
  const bent_px = Math.max(0, ...frames.map((frame) => frame.bent_px ?? 0))
  if (bent_px > 0) return `followed, up to ${significant(bent_px, 2)} px`
  const moved_percent = Math.max(...frames.map((frame) => frame.moved_percent ?? NaN))
  if (Number.isNaN(moved_percent)) return undefined
  return moved_percent < 100 * STIRRED ? 'none' : `not followed, in up to ${significant(moved_percent, 2)} % of the picture`
}
