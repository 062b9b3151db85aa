'use client'

import Link from 'next/link'
import { useSearchParams } from 'next/navigation'
import { useCallback, useEffect, useMemo, useState } from 'react'
import { depthCss, rampPlace } from '@/core/ramp'
import type { RenderDetail, RunDetail, ShootDetail } from '@/schemas'
import { JobProgress } from '../jobs'
import { useStoredPlan } from '../plan'
import { DepthRibbon } from '../ribbon'
import { Shell, ShootHeader } from '../shell'
import { dateText, significant } from '@/core/units'
import { Deliver } from './Deliver'
import { FUSED, placementOf } from './placement'
import styles from './result.module.css'
import { ZoomView, type Layer } from './ZoomView'

/** The fused picture at 100 %, every frame at the same place behind it, and what came from which. */
export function ResultScreen({ shoot }: { shoot: ShootDetail }) {
  const asked = Number(useSearchParams().get('render'))
  const all = shoot.runs.flatMap((run) => run.renders.map((render) => ({ run, render })))
  const found = all.find(({ render }) => render.id === asked) ?? all.sort((a, b) => b.render.id - a.render.id)[0]
  const [job] = shoot.jobs
  return (
    <Shell dark>
      <ShootHeader shoot={shoot} step="result" />
      {job && job.state !== 'done' && <JobProgress job={job} shootId={shoot.id} />}
      {found ? (
        <Render key={found.render.id} shoot={shoot} {...found} others={all.map(({ render }) => render)} />
      ) : (
        <p className={styles.nothing}>
          Nothing is fused yet. <Link href={`/shoots/${shoot.id}/shoot`}>Go to the frames</Link>
        </p>
      )}
    </Shell>
  )
}

type Shown = { kind: 'fused' } | { kind: 'map' } | { kind: 'frame'; index: number }

function Render({ shoot, run, render, others }: { shoot: ShootDetail; run: RunDetail; render: RenderDetail; others: RenderDetail[] }) {
  const { plan, request } = useStoredPlan(shoot)
  const { report } = render
  const count = report.frames.length
  const [shown, setShown] = useState<Shown>({ kind: 'fused' })
  const [zoom, setZoom] = useState(0)
  const showFrame = useCallback((index: number) => setShown({ kind: 'frame', index: Math.min(count - 1, Math.max(0, index)) }), [count])
  useKeys(
    shown,
    setShown,
    showFrame,
    report.frames.findIndex(({ file }) => file === report.reference),
  )

  const layer = useMemo(() => layerOf(shown, run, render), [shown, run, render])
  const followsPlan = run.source === 'simulated' && plan.frameCount === count
  const frame = shown.kind === 'frame' ? report.frames[shown.index] : undefined
  const shares = report.frames.map(({ share_percent }) => share_percent)

  return (
    <div className={styles.columns}>
      <section className={styles.view}>
        <div className={styles.switch} role="group" aria-label="What the view shows">
          <button type="button" aria-pressed={shown.kind === 'fused'} onClick={() => setShown({ kind: 'fused' })}>
            Fused <kbd>F</kbd>
          </button>
          <button type="button" aria-pressed={shown.kind === 'map'} onClick={() => setShown({ kind: 'map' })}>
            Which frame shows where <kbd>M</kbd>
          </button>
          <span data-testid="shown">
            {frame && shown.kind === 'frame'
              ? `Frame ${shown.index + 1} of ${count}, gives ${significant(frame.share_percent, 2)} % of the picture`
              : '← → flick through the frames'}
          </span>
          <span className={styles.percent}>{zoom > 0 && `${significant(zoom, 2)} %`}</span>
        </div>
        <ZoomView layer={layer} width_px={report.crop.width} onZoom={setZoom} />
        {followsPlan ? (
          <DepthRibbon
            plan={plan}
            request={request}
            dark
            captured={count}
            shares={shares}
            selected={shown.kind === 'frame' ? shown.index : undefined}
            onSelect={showFrame}
          />
        ) : (
          <OrderStrip shares={shares} selected={shown.kind === 'frame' ? shown.index : undefined} onSelect={showFrame} />
        )}
      </section>
      <aside className={styles.side}>
        <Deliver render={render} />
        <Facts render={render} run={run} />
        <Renders shootId={shoot.id} renders={others} current={render.id} />
      </aside>
    </div>
  )
}

/** Frames without known positions: in their order, as wide as they are many, as high as what each gives. */
function OrderStrip({ shares, selected, onSelect }: { shares: number[]; selected?: number; onSelect: (index: number) => void }) {
  const most = Math.max(1, ...shares)
  return (
    <div>
      <ol className={styles.order} aria-label="Frames in focus order">
        {shares.map((share, index) => (
          <li key={index}>
            <button
              type="button"
              onClick={() => onSelect(index)}
              aria-pressed={index === selected}
              aria-label={`Frame ${index + 1}, ${significant(share, 2)} %`}
            >
              <i style={{ height: `${8 + (42 * share) / most}px`, background: depthCss(rampPlace(index, shares.length)) }} />
            </button>
          </li>
        ))}
      </ol>
      <p className={styles.orderEnds}>
        <span>first frame</span>
        <span>positions unknown; height is what each frame gives</span>
        <span>last frame</span>
      </p>
    </div>
  )
}

function Facts({ render, run }: { render: RenderDetail; run: RunDetail }) {
  const { report } = render
  const reference = report.frames.findIndex(({ file }) => file === report.reference) + 1
  const shift = Math.max(...report.frames.map(({ dx_px, dy_px }) => Math.hypot(dx_px, dy_px)))
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
        <dt>Scale, over the series</dt>
        <dd>{significant(breathing, 2)} %</dd>
        <dt>Time</dt>
        <dd>{significant(report.timings_s.total, 2)} s</dd>
      </dl>
    </section>
  )
}

function Renders({ shootId, renders, current }: { shootId: number; renders: RenderDetail[]; current: number }) {
  if (renders.length < 2) return null
  return (
    <section>
      <h2>Renders of this shoot</h2>
      <ul className={styles.renders}>
        {renders.map(({ id, created_at, report }) => (
          <li key={id}>
            <Link href={`/shoots/${shootId}/result?render=${id}`} aria-current={id === current}>
              {report.style}, {report.frames.length} frames, {dateText(created_at)}
            </Link>
          </li>
        ))}
      </ul>
    </section>
  )
}

function layerOf(shown: Shown, run: RunDetail, { id, report }: RenderDetail): Layer {
  if (shown.kind === 'map') return { key: 'map', image: `/api/renders/${id}/map`, placement: FUSED }
  if (shown.kind === 'fused') {
    return {
      key: 'fused',
      pyramid: { prepare: `/api/renders/${id}/zoom`, tiles: `/api/tiles/render-${id}`, width_px: report.crop.width, height_px: report.crop.height },
      placement: FUSED,
    }
  }
  const frame = run.frames.find(({ name }) => name === report.frames[shown.index].file)!
  return {
    key: `frame-${frame.id}`,
    pyramid: { prepare: `/api/frames/${frame.id}/zoom`, tiles: `/api/tiles/frame-${frame.id}`, width_px: frame.width, height_px: frame.height },
    placement: placementOf(report, shown.index, frame.width, frame.height),
  }
}

/** F fused, M map, ← → the frame before and after. */
function useKeys(shown: Shown, setShown: (shown: Shown) => void, showFrame: (index: number) => void, reference: number): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || (event.target as HTMLElement).closest('input, textarea, svg[role=group]')) return
      const here = shown.kind === 'frame' ? shown.index : reference
      if (event.key === 'f') setShown({ kind: 'fused' })
      else if (event.key === 'm') setShown({ kind: 'map' })
      else if (event.key === 'ArrowRight') showFrame(shown.kind === 'frame' ? here + 1 : here)
      else if (event.key === 'ArrowLeft') showFrame(shown.kind === 'frame' ? here - 1 : here)
      else return
      event.preventDefault()
      event.stopPropagation()
    }
    // Before the zoom view, which would pan on the arrow keys.
    window.addEventListener('keydown', onKey, true)
    return () => window.removeEventListener('keydown', onKey, true)
  }, [shown, setShown, showFrame, reference])
}
