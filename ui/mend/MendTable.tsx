'use client'

import dynamic from 'next/dynamic'
import { useCallback, useMemo, useRef, useState } from 'react'
import { useQuery } from '@tanstack/react-query'
import { strokeOver, type MendBase, type PaintEdit } from '@/core/mend'
import type { Place } from '@/core/inspect'
import type { Registration, RenderDetail, RunDetail, ShootDetail } from '@/schemas'
import { fetchJson, runJob } from '../api'
import { message } from '../messages'
import { namedFrames } from '../namedFrames'
import { PlaceMark, Viewer } from '../viewer'
import { Choices } from './Choices'
import { ComposedLayers } from './ComposedLayers'
import { EditList } from './EditList'
import { Gate, HoleSize, isOpen, OPEN } from './Gate'
import { composedFrames, frameLayer, likeRenders, renderLayer } from './layers'
import type { MendedRender } from './orders'
import { PaintedLayer } from './PaintedLayer'
import type { Hole } from './hole'
import { Porthole } from './Porthole'
import { Round } from './Round'
import { editOf, throughText, type Through } from './through'
import { useKeys } from './useKeys'
import { useMend, newEditId } from './useMend'
import { usePainted } from './usePainted'
import { useRound } from './useRound'
import { useWalk } from './useWalk'
import { Windows } from './Windows'
import styles from './mend.module.css'

const Compose = dynamic(() => import('./Compose').then((part) => part.Compose), { ssr: false })
const KeySheet = dynamic(() => import('./KeySheet').then((part) => part.KeySheet), { ssr: false })
const Lines = dynamic(() => import('./Lines').then((part) => part.Lines), { ssr: false })

interface Props {
  shoot: ShootDetail
  run: RunDetail
  render: RenderDetail
  onRendered: (renderId: number) => void
}

/** The picture, the porthole over it, the windows below, and what was done. */
export function MendTable({ shoot, run, render, onRendered }: Props) {
  const { crop } = render.report
  const frames = useMemo(() => namedFrames(shoot, run, render), [shoot, run, render])
  const { data: registration } = useQuery({
    queryKey: ['registration', render.id],
    queryFn: () => fetchJson<Registration>(`/api/renders/${render.id}/registration`),
    staleTime: Infinity,
  })
  const mend = useMend(render.id)
  const base: MendBase = mend.mend?.base ?? 'fused'
  const baseText = JSON.stringify(base)
  const mended = useMemo<MendedRender | undefined>(() => {
    const known = new Map(frames.flatMap(({ file, frame }) => (frame ? [[file, frame] as const] : [])))
    return registration && { id: render.id, registration, frames: known, base: JSON.parse(baseText) as MendBase }
  }, [registration, render.id, frames, baseText])
  const round = useRound(render.id)
  const walk = useWalk(render.id)
  const stage = useRef<HTMLDivElement>(null)
  const suggested = useMemo(() => round.place && suggestionOf(round.place), [round.place])
  const shown = useMemo(() => (suggested ? [...mend.standing, suggested] : mend.standing), [mend.standing, suggested])
  const { painted, error } = usePainted(shown, mended)

  const [through, setThrough] = useState<Through>()
  const [hole, setHole] = useState<Hole>({ radius_px: 36, softness: 0.4 })
  const [gate, setGate] = useState(OPEN)
  const [evenTone, setEvenTone] = useState(false)
  const [rest, setRest] = useState<{ x: number; y: number }>()
  const [inUse, setInUse] = useState<number>()
  const [untouched, setUntouched] = useState(false)
  const [moving, setMoving] = useState(false)
  const [blinking, setBlinking] = useState(false)
  const [open, setOpen] = useState<'compose' | 'keys'>()
  /** The lines of a composed picture are dragged; else one paints. */
  const [dragging, setDragging] = useState(true)
  const [rendering, setRendering] = useState(false)

  const newestRest = useRef(0)
  const onRest = useCallback(
    (x: number, y: number) => {
      setRest({ x, y })
      // An answer that arrives after a newer place was chosen is not for that place.
      const mine = ++newestRest.current
      const answer = (index?: number) => mine === newestRest.current && setInUse(index)
      fetchJson<{ index: number }>(`/api/renders/${render.id}/at?x=${Math.round(x)}&y=${Math.round(y)}`).then(
        ({ index }) => void answer(index),
        () => void answer(),
      )
    },
    [render.id],
  )
  const donor = through?.kind === 'donor' ? through.index : through?.kind === 'sharpest' ? inUse : undefined
  const step = (by: number) => {
    const here = donor ?? inUse ?? 0
    setThrough({ kind: 'donor', index: Math.min(frames.length - 1, Math.max(0, here + by)) })
  }
  const next = (by: number) => {
    setBlinking(false)
    if (walk.on) walk.go(by)
    else round.go(by)
  }
  const accept = () => {
    if (!suggested) return
    // A name of its own: the same place may be mended again later.
    void mend.add({ ...suggested, id: newEditId() })
    next(1)
  }
  useKeys({
    step,
    setThrough,
    setHole,
    setUntouched,
    setMoving,
    setBlinking,
    next,
    accept: suggested && accept,
    sheet: () => setOpen('keys'),
    undo: mend.undo,
    redo: mend.redo,
  })

  const layer = useMemo(() => renderLayer(render), [render])
  const composed = useMemo(() => composedFrames(JSON.parse(baseText) as MendBase, render, frames), [baseText, render, frames])
  const others = useMemo(() => likeRenders(render, run.renders), [render, run.renders])
  const seen = useMemo(() => {
    if (through?.kind === 'render') return others.filter(({ id }) => id === through.id).map(renderLayer)[0]
    return donor === undefined ? undefined : frameLayer(render, frames[donor], donor)
  }, [through, others, donor, frames, render])
  const onStroke = (path: [number, number][], radius_px: number, opacity: number) => {
    if (!through) return void message.info('Choose first what shows through the porthole: a frame below, or healing.')
    const stroke = { id: newEditId(), path, radius_px, softness: hole.softness, opacity, ...(!isOpen(gate) && { gate }) }
    const edit = editOf(through, stroke, frames, inUse, evenTone)
    if (!edit) return void message.info('Rest on the place for a moment first, so that the sharpest frame is found.')
    void mend.add(edit)
  }
  const onWalk = () => {
    const { clientWidth, clientHeight } = stage.current!
    void walk.begin({ width: Math.max(50, clientWidth), height: Math.max(50, clientHeight) })
  }
  const onRender = async () => {
    setRendering(true)
    try {
      const result = await runJob<'mend'>(`/api/mends/${mend.mend!.id}/render`)
      onRendered(result!.render)
    } catch (cause) {
      message.error((cause as Error).message)
    } finally {
      setRendering(false)
    }
  }
  const label = throughText(through, frames, inUse)
  const parts = useMemo(() => {
    const hidden = blinking ? undefined : suggested?.id
    return [...painted].flatMap(([id, part]) => (id === hidden ? [] : [part]))
  }, [painted, blinking, suggested])
  const boundaries = base !== 'fused' && 'boundaries' in base ? base.boundaries : undefined

  return (
    <div className={styles.table}>
      <Choices
        through={through}
        label={label}
        onThrough={setThrough}
        evenTone={evenTone}
        onEvenTone={setEvenTone}
        others={others}
        mend={mend}
        rendering={rendering}
        onRender={() => void onRender()}
        onCompose={() => setOpen('compose')}
        dragging={boundaries && dragging}
        onDragging={setDragging}
      />
      <Round round={round} walk={walk} onWalk={onWalk} frames={frames} onBlink={setBlinking} onAccept={accept} />
      <div ref={stage} className={styles.stage} data-moving={moving}>
        <Viewer layer={layer} width_px={crop.width} label="The picture to mend">
          {composed.length > 0 && !untouched && <ComposedLayers frames={composed} width_px={crop.width} height_px={crop.height} />}
          <PaintedLayer parts={parts} width_px={crop.width} hidden={untouched} />
          <PlaceMark place={walk.view ?? round.place} width_px={crop.width} />
          <Porthole
            hole={hole}
            onHole={setHole}
            through={untouched ? undefined : seen}
            label={label}
            width_px={crop.width}
            onStroke={onStroke}
            onRest={onRest}
          />
          {boundaries && dragging && !untouched && (
            <Lines
              boundaries={boundaries}
              width_px={crop.width}
              height_px={crop.height}
              onLines={(lines) => void mend.rebase({ boundaries: lines })}
            />
          )}
        </Viewer>
      </div>
      <HoleSize hole={hole} onHole={setHole} />
      <Gate gate={gate} count={frames.length} onGate={setGate} />
      {mended && (
        <Windows at={rest} render={mended} frames={frames} inUse={inUse} chosen={donor} onChoose={(index) => setThrough({ kind: 'donor', index })} />
      )}
      <p className={styles.keys}>
        Wheel: size. Hold Shift and drag the rim for size, the inner one for softness. Hold Space to move the picture, U to see it untouched.{' '}
        <button type="button" onClick={() => setOpen('keys')}>
          All keys
        </button>
      </p>
      {(error || mend.error) && <p role="alert">▲ {error || mend.error}</p>}
      <EditList edits={mend.edits} standing={mend.standing} frames={frames} onTakeBack={(id) => void mend.takeBack(id)} />
      {open === 'keys' && <KeySheet onClose={() => setOpen(undefined)} />}
      {open === 'compose' && (
        <Compose
          renderId={render.id}
          frames={frames}
          width_px={crop.width}
          onClose={() => setOpen(undefined)}
          onBegin={(chosen) => void mend.begin(chosen).then(() => setOpen(undefined))}
        />
      )}
    </div>
  )
}

/** The edit that a place suggests; nothing where a person has to choose. */
function suggestionOf(place: Place): PaintEdit | undefined {
  const { suggestion, kind, x, y } = place
  const stroke = { id: `suggested ${kind} ${x} ${y}`, ...strokeOver(place) }
  if (suggestion && 'frame' in suggestion) return { ...stroke, kind: 'donor', frame: suggestion.frame }
  return suggestion && 'heal' in suggestion ? { ...stroke, kind: 'heal' } : undefined
}
