'use client'

import dynamic from 'next/dynamic'
import Link from 'next/link'
import { useSearchParams } from 'next/navigation'
import { useCallback, useEffect, useMemo, useState } from 'react'
import type { FrameDetail, FuseReport, NeededSubset, RenderDetail, RenderInShort, ReportPart, RunDetail, ShootDetail } from '@/schemas'
import { JobProgress, mainJob, useOpenWhenFused } from '../jobs'
import { useStoredPlan } from '../useStoredPlan'
import { useFocusText } from '../useFocusText'
import { Shell, ShootHeader } from '../shell'
import { significant } from '@/core/units'
import { Facts } from './Facts'
import { FramesNeeded } from './FramesNeeded'
import { MovedParts } from './MovedParts'
import { namedFrames, type NamedFrame } from '../namedFrames'
import { PreviewPanel, triedText, usePreview, type Preview } from './preview'
import { settingsText } from '../renderText'
import { Renders } from './Renders'
import { SeriesRibbon } from './SeriesRibbon'
import { useWhichFrame } from './useWhichFrame'
import { WhichFrame } from './WhichFrame'
import { useRender } from '../api'
import { WithRender } from '../WithRender'
import styles from './result.module.css'
import { Beside, FUSED, PlaceMark, placementOf, placementOfRender, Viewer, ViewLink, type Layer, type View } from '../viewer'

/** The fused picture at 100 %, every frame at the same place behind it, and what came from which. */
export function ResultScreen({ shoot }: { shoot: ShootDetail }) {
  const asked = Number(useSearchParams().get('render'))
  const all = shoot.runs.flatMap((run) => run.renders.map((render) => ({ run, render })))
  const found = all.find(({ render }) => render.id === asked) ?? all.sort((a, b) => b.render.id - a.render.id)[0]
  const job = mainJob(shoot.jobs)
  useOpenWhenFused(shoot)
  return (
    <Shell dark>
      <ShootHeader shoot={shoot} step="result" />
      {job && job.state !== 'done' && <JobProgress job={job} shootId={shoot.id} />}
      {found ? (
        <WithRender key={found.render.id} id={found.render.id}>
          {(render) => <Render shoot={shoot} run={found.run} render={render} others={all.map(({ render }) => render)} />}
        </WithRender>
      ) : (
        <p className={styles.nothing}>
          Nothing has been fused yet. <Link href={`/shoots/${shoot.id}/shoot`}>Go to the frames</Link>
        </p>
      )}
    </Shell>
  )
}

/** The charts are a large part of the screen's scripts and come after the picture. */
const Motion = dynamic(() => import('./Motion').then((part) => part.Motion), { ssr: false })

type Shown = { kind: 'fused' } | { kind: 'map' } | { kind: 'preview' } | { kind: 'fewer'; subset: NeededSubset } | { kind: 'frame'; index: number }

function Render({ shoot, run, render, others }: { shoot: ShootDetail; run: RunDetail; render: RenderDetail; others: RenderInShort[] }) {
  // As the run was shot, whatever is planned now.
  const { plan, request } = useStoredPlan(run)
  const { report } = render
  const count = report.frames.length
  const [shown, setShown] = useState<Shown>({ kind: 'fused' })
  const [view, setView] = useState<View>()
  const [besideId, setBeside] = useState<number>()
  const [apart, setApart] = useState(false)
  const [part, setPart] = useState<ReportPart>()
  const fewer = shown.kind === 'fewer' ? shown.subset : undefined
  const place = useMemo(
    () => fewer?.softest ?? (part && { ...part, x: part.x - report.crop.x, y: part.y - report.crop.y }),
    [fewer, part, report.crop],
  )
  const [link] = useState(() => new ViewLink())
  const showFrame = useCallback((index: number) => setShown({ kind: 'frame', index: Math.min(count - 1, Math.max(0, index)) }), [count])
  useKeys(
    shown,
    setShown,
    showFrame,
    report.frames.findIndex(({ file }) => file === report.reference),
  )
  const named = useMemo(() => namedFrames(shoot, run, render), [shoot, run, render])
  const frames = useMemo(() => named.map(({ frame }) => frame), [named])
  const which = useWhichFrame(render.id)
  const preview = usePreview(render, frames)
  const layer = useMemo(() => layerOf(shown, frames, render, preview.preview), [shown, frames, render, preview.preview])
  const { data: other } = useRender(besideId)
  const beside = useMemo(() => other && besideLayer(other, report, frames), [other, report, frames])
  const twoViews = beside && apart
  const textOf = (renderId: number) => others.filter(({ id }) => id === renderId).map(settingsText)
  const frame = shown.kind === 'frame' ? named[shown.index] : undefined
  const selected = shown.kind === 'frame' ? shown.index : undefined
  const focusText = useFocusText(run)
  const shares = report.frames.map(({ share_percent }) => share_percent)

  return (
    <div className={styles.columns}>
      <section className={styles.view}>
        <nav aria-label="What comes next" className={styles.onward}>
          <Link className={styles.next} href={`/shoots/${shoot.id}/deliver?render=${render.id}`}>
            Finish and deliver this picture
          </Link>
          <Link href={`/shoots/${shoot.id}/mend?render=${render.id}`}>Look it over and mend it first</Link>
        </nav>
        <div className={styles.switch} role="group" aria-label="What the view shows">
          <button type="button" aria-pressed={shown.kind === 'fused'} onClick={() => setShown({ kind: 'fused' })}>
            Fused <kbd>F</kbd>
          </button>
          <button type="button" aria-pressed={shown.kind === 'map'} onClick={() => setShown({ kind: 'map' })}>
            Which frame shows where <kbd>M</kbd>
          </button>
          <span data-testid="shown">
            {frame && selected !== undefined && `Frame ${frame.number}, ${frame.file}, gives ${significant(shares[selected], 2)} % of the picture`}
            {shown.kind === 'preview' && preview.preview && `The middle with ${triedText(preview.preview.tried)}. F and P switch between them`}
            {fewer && `From ${fewer.frames.length} frames, where most is lost. F shows it from all of them`}
            {(shown.kind === 'fused' || shown.kind === 'map') && '← → flick through the frames'}
          </span>
          <span className={styles.percent} data-testid="percent">
            {view && `${significant(view.percent, 2)} %`}
          </span>
        </div>
        <div className={twoViews ? styles.panes : undefined}>
          <Viewer layer={layer} width_px={report.crop.width} onView={setView} onPick={which.ask} link={link} label={layerName(shown, frame)}>
            <PlaceMark place={place} width_px={report.crop.width} />
            {beside && !twoViews && <Beside layer={beside} label="Where the two renders meet" />}
          </Viewer>
          {twoViews && <Viewer layer={beside} width_px={report.crop.width} link={link} label="The other render" />}
        </div>
        <WhichFrame found={which.found} frames={named} focusText={focusText} onShow={showFrame} />
        {other && (
          <p className={styles.sides}>
            <span>left: {textOf(render.id)}</span>
            <span>
              <button type="button" aria-pressed={apart} onClick={() => setApart(!apart)}>
                Two views
              </button>
              {!apart && ' C flicks between them'}
            </span>
            <span>right: {textOf(other.id)}</span>
          </p>
        )}
        <SeriesRibbon frames={named} plan={plan} request={request} shares={shares} selected={selected} onSelect={showFrame} />
        <Motion report={report} frames={named} selected={selected} onSelect={showFrame} />
      </section>
      <aside className={styles.side}>
        <PreviewPanel
          {...preview}
          current={triedText(report.settings)}
          ready={view !== undefined}
          runId={run.id}
          shootId={shoot.id}
          settings={report.settings}
          frameCount={report.frames.length}
          onMake={(tried, veil) => {
            preview.make(tried, view!, veil)
            setShown({ kind: 'preview' })
          }}
        />
        <MovedParts render={render} runId={run.id} shootId={shoot.id} frames={named} shown={part} onShow={setPart} />
        {!report.mend && count > 3 && (
          <FramesNeeded
            renderId={render.id}
            jobs={shoot.jobs}
            overlap={plan?.overlap}
            shown={fewer}
            onShow={(subset) => setShown(subset ? { kind: 'fewer', subset } : { kind: 'fused' })}
          />
        )}
        <Facts render={render} run={run} frames={named} />
        <Renders shootId={shoot.id} renders={others} current={render.id} beside={besideId} onBeside={setBeside} />
      </aside>
    </div>
  )
}

function layerName(shown: Shown, frame: NamedFrame | undefined): string {
  if (frame) return `Frame ${frame.number}, ${frame.file}`
  if (shown.kind === 'fewer') return `From ${shown.subset.frames.length} frames, where most is lost`
  return shown.kind === 'map' ? 'Which frame shows where' : shown.kind === 'preview' ? 'The part with another style' : 'The fused picture'
}

/** Where a part of the picture lies over it, in widths of it. */
const within = ({ x, y, width }: { x: number; y: number; width: number }, whole: { width: number }) => ({
  x: x / whole.width,
  y: y / whole.width,
  width: width / whole.width,
  degrees: 0,
})

function fusedLayer({ id, report }: RenderDetail): Layer {
  const { width, height } = report.crop
  const pyramid = { prepare: `/api/renders/${id}/zoom`, tiles: `/api/tiles/render-${id}`, width_px: width, height_px: height }
  return { key: 'fused', pyramid, placement: FUSED }
}

/** Another render at its place over this one, whichever frame each is framed by. */
function besideLayer(other: RenderDetail, report: FuseReport, frames: (FrameDetail | undefined)[]): Layer {
  const size = frames.find((frame) => frame?.name === other.report.reference)
  const placement = size && placementOfRender(report, other.report, size)
  return { ...fusedLayer(other), key: `render-${other.id}`, placement: placement ?? FUSED }
}

function layerOf(shown: Shown, frames: (FrameDetail | undefined)[], render: RenderDetail, preview: Preview | undefined): Layer {
  const { id, report } = render
  if (shown.kind === 'map') return { key: 'map', image: `/api/renders/${id}/map`, placement: FUSED }
  if (shown.kind === 'preview' && preview) {
    const { x, y, width } = preview.area
    const { crop } = report
    return { key: `preview-${preview.url}`, image: preview.url, placement: within({ x: x - crop.x, y: y - crop.y, width }, crop), over: 'fused' }
  }
  if (shown.kind === 'fewer' && shown.subset.softest) {
    const { frames: fewer, softest } = shown.subset
    return {
      key: `look-${fewer.length}`,
      image: `/api/renders/${id}/look?frames=${fewer.length}`,
      placement: within(softest, report.crop),
      over: 'fused',
    }
  }
  if (shown.kind !== 'frame') return fusedLayer(render)
  const frame = frames[shown.index]
  if (!frame) return { key: `gone-${shown.index}`, missing: `${report.frames[shown.index].file} was deleted.`, placement: FUSED }
  return {
    key: `frame-${frame.id}`,
    pyramid: { prepare: `/api/frames/${frame.id}/zoom`, tiles: `/api/tiles/frame-${frame.id}`, width_px: frame.width, height_px: frame.height },
    placement: placementOf(report, shown.index, frame.width, frame.height),
  }
}

/** F fused, M map, P preview, ← → the frame before and after. */
function useKeys(shown: Shown, setShown: (shown: Shown) => void, showFrame: (index: number) => void, reference: number): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || (event.target as HTMLElement).closest('input, textarea, svg[role=group], [role=slider]'))
        return
      const here = shown.kind === 'frame' ? shown.index : reference
      if (event.key === 'f') setShown({ kind: 'fused' })
      else if (event.key === 'm') setShown({ kind: 'map' })
      else if (event.key === 'p') setShown({ kind: 'preview' })
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
