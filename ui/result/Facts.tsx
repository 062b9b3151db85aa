'use client'

import type { RenderDetail, RunDetail, ShootDetail } from '@/schemas'
import { significant } from '@/core/units'
import { BreathingFact } from './BreathingFact'
import styles from './result.module.css'

/** What a render was made of and by which settings. */
export function Facts({ shoot, render, run }: { shoot: ShootDetail; render: RenderDetail; run: RunDetail }) {
  const { report } = render
  const reference = report.frames.findIndex(({ file }) => file === report.reference) + 1
  const shift = Math.max(...report.frames.map(({ dx_px, dy_px }) => Math.hypot(dx_px, dy_px)))
  const bent_px = Math.max(0, ...report.frames.map((frame) => frame.bent_px ?? 0))
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
          {report.frames.length} of run {run.number}
        </dd>
        <dt>Reference</dt>
        <dd>frame {reference}</dd>
        <dt>Size</dt>
        <dd>
          {report.crop.width} × {report.crop.height} px
        </dd>
        <dt>Largest shift</dt>
        <dd>{significant(shift, 2)} px</dd>
        {report.settings.localWarp && (
          <>
            <dt>Parts followed</dt>
            <dd>{bent_px > 0 ? `up to ${significant(bent_px, 2)} px` : 'none had moved'}</dd>
          </>
        )}
        <dt>Scale, over the series</dt>
        <dd>{significant(breathing, 2)} %</dd>
        <BreathingFact shoot={shoot} run={run} render={render} />
        <dt>Time</dt>
        <dd>{significant(report.timings_s.total, 2)} s</dd>
      </dl>
    </section>
  )
}
