'use client'

import { useQuery } from '@tanstack/react-query'
import dynamic from 'next/dynamic'
import { memo, useCallback, useEffect, useMemo, useState } from 'react'
import { Checkbox } from 'antd'
import { shapeAfter, withFacts, type CaptionFacts, type Place, type Recipe, type Step, type StepName } from '@/core/finish'
import { pixelSizeOf } from '@/core/relief'
import type { RenderDetail, RunDetail } from '@/schemas'
import type { Take as TakeName } from '@/schemas/formats'
import { fetchJson } from '../api'
import { coveredAfter, coveredOf } from './covered'
import { EDITORS, type Editor } from './editors'
import { Kept } from './Kept'
import { newStep, placeFor } from './newStep'
import { useReleased } from './pressed'
import { Proof } from './Proof'
import { StepList } from './StepList'
import { Take } from './Take'
import { TakeAlong } from './TakeAlong'
import { useProof } from './useProof'
import { useRecipe } from './useRecipe'
import styles from './deliver.module.css'

/** What stands below the steps follows them when nothing is dragged. */
const [LaterTake, LaterKept, LaterAlong] = [memo(Take), memo(Kept), memo(TakeAlong)]

const Overlay = dynamic(() => import('./Overlay').then((part) => part.Overlay), { ssr: false })

/** Proofs are this wide: about what a screen has. */
const PROOF_px = 1100

/** What can be taken along beside the picture. */
const FOR_OTHERS: TakeName[] = ['frames', 'masks']
const PAPERS = ['record', 'contact', 'json'] as ('record' | 'contact' | 'json')[]

/** Until it is known what captions may tell. */
const NOTHING: CaptionFacts = {}

interface Props {
  shootId: number
  run: RunDetail
  render: RenderDetail
}

/** The picture as it will be delivered, and beside it what is done to it, in sentences. */
export function DeliverTable({ shootId, run, render }: Props) {
  const { crop } = render.report
  const { recipe, error, change, undo, redo } = useRecipe(render.id)
  const [open, setOpen] = useState<number>()
  const [clipped, setClipped] = useState(false)
  const [untouched, setUntouched] = useState(false)
  /** Where one looks closely, as parts of the picture's width and height. */
  const [look, setLook] = useState<Place>([0.5, 0.5])
  const steps = useMemo(() => recipe?.steps ?? [], [recipe])
  const step = open === undefined ? undefined : steps[open]
  const editor = step && (EDITORS[step.do] as unknown as Editor<StepName>)
  const { data: facts = NOTHING } = useQuery({
    queryKey: ['caption', render.id],
    queryFn: () => fetchJson<CaptionFacts>(`/api/renders/${render.id}/caption`),
  })
  // An open step is changed on the picture as it is there: what comes later may cut it.
  const proven = useMemo(() => {
    if (untouched) return []
    const shown = open === undefined || !editor?.Overlay ? steps : steps.slice(0, editor.before ? open : open + 1)
    return withFacts(shown, facts)
  }, [steps, open, editor, untouched, facts])
  const load = useMemo(
    () => ({ render: render.id, width: Math.min(PROOF_px, crop.width), full: { width: crop.width, height: crop.height } }),
    [render.id, crop],
  )
  const proof = useProof(load, proven, step?.do === 'tones' ? open : undefined, clipped, step?.do === 'sharpen')
  const pixel_mm = useMemo(() => pixelOf(run, render.report.reference), [run, render.report.reference])
  const madeFor = useMemo(() => ({ width: crop.width, height: crop.height, pixel_mm }), [crop, pixel_mm])
  const covered = useMemo(() => coveredOf(render.report, run.frames[0] ?? crop), [render.report, run.frames, crop])

  useKeys({ undo, redo, setUntouched, close: () => setOpen(undefined) })
  const later = useReleased(recipe)
  const onKept = useCallback((next: Recipe) => (change(next), setOpen(undefined)), [change])
  if (!recipe) return null
  const shape = shapeOf(steps.slice(0, open ?? steps.length), crop)
  const set = (next: Step[], nowOpen: number | undefined = open, kind?: string) => {
    change({ ...recipe, steps: next }, kind)
    setOpen(nowOpen)
  }
  const add = (name: StepName) => {
    const at = placeFor(name, steps)
    const around = shapeOf(steps.slice(0, at), crop)
    set([...steps.slice(0, at), newStep(name, { ...around, pixel_mm, covered: coveredAfter(covered, steps.slice(0, at)) }), ...steps.slice(at)], at)
  }
  const onStep = (changed: Step, kind?: string) =>
    set(
      steps.map((each, k) => (k === open ? changed : each)),
      open,
      kind && `${open} ${kind}`,
    )
  const props = step && {
    step: step as never,
    onStep: onStep as never,
    ...shape,
    frames: run.frames[0] ?? crop,
    all: run.frames,
    light: proof.shown?.light,
    slices: render.report.frames.length,
    renderId: render.id,
    full: load.full,
    upTo: withFacts(steps.slice(0, open! + 1), facts),
    look: [look[0] * shape.width, look[1] * shape.height] as Place,
    onLook: ([x, y]: Place) => setLook([x / shape.width, y / shape.height]),
    covered: coveredAfter(covered, steps.slice(0, open)),
    scaleKnown: pixel_mm !== undefined,
  }
  return (
    <div className={styles.table}>
      <div>
        <Proof shown={proof.shown} sheet={proof.sheet} label="The picture as it will be delivered">
          {(size) => props && editor?.Overlay && !untouched && <Overlay {...props} size={size} times={size.width / shape.width} />}
        </Proof>
        <div className={styles.below}>
          <span>{sizeText(shapeOf(withFacts(steps, facts), crop))}</span>
          <Checkbox checked={clipped} onChange={({ target }) => setClipped(target.checked)}>
            Mark what is white or black altogether
          </Checkbox>
          <span>Hold U to see it untouched.</span>
        </div>
        {(proof.error || error) && <p role="alert">▲ {proof.error || error}</p>}
      </div>
      <aside className={styles.side}>
        <div className={styles.history}>
          <button type="button" disabled={!undo} onClick={undo}>
            Undo
          </button>
          <button type="button" disabled={!redo} onClick={redo}>
            Redo
          </button>
        </div>
        <StepList
          steps={steps}
          open={open}
          missing={proof.facts && !proof.facts.depth ? ['depthGradient'] : []}
          onOpen={setOpen}
          onSteps={set}
          onAdd={add}
          editor={props && editor && <editor.Fields {...props} />}
        />
        <LaterTake renderId={render.id} recipe={later ?? recipe} onRecipe={change} />
        <LaterKept shootId={shootId} picture={madeFor} recipe={later ?? recipe} onRecipe={onKept} />
        <LaterAlong renderId={render.id} runId={run.id} title="For other hands" kinds={FOR_OTHERS} kept={PAPERS} />
      </aside>
    </div>
  )
}

/** The picture's size at a step, and its px for one of the render's; where a size cannot be made, that before it. */
function shapeOf(steps: Step[], crop: { width: number; height: number }): { width: number; height: number; scale: number } {
  try {
    const unsized = shapeAfter(
      steps.filter((step) => step.do !== 'size'),
      crop,
    )
    const shape = shapeAfter(steps, crop)
    return { ...shape, scale: shape.width / unsized.width }
  } catch {
    return { width: crop.width, height: crop.height, scale: 1 }
  }
}

const sizeText = ({ width, height }: { width: number; height: number }) => `${width} × ${height} px will be delivered.`

/** Size of a pixel of the render on the subject, in the plane of focus of the frame that it is framed by, as the plan has it. */
function pixelOf({ planRequest, frames }: RunDetail, reference: string): number | undefined {
  const framed = frames.find(({ name }) => name === reference)
  return planRequest && framed ? pixelSizeOf(planRequest, framed.width, framed.position_mm ?? 0)?.size_mm : undefined
}

interface Keys {
  undo?: () => void
  redo?: () => void
  setUntouched: (untouched: boolean) => void
  close: () => void
}

/** Undo, redo, the untouched picture, and closing a step. */
function useKeys({ undo, redo, setUntouched, close }: Keys): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if ((event.target as HTMLElement).closest('input, textarea, select, [role="dialog"]')) return
      const key = event.key.toLowerCase()
      if ((event.ctrlKey || event.metaKey) && key === 'z' && event.type === 'keydown') {
        event.preventDefault()
        ;(event.shiftKey ? redo : undo)?.()
      } else if (key === 'u' && !event.ctrlKey && !event.repeat) setUntouched(event.type === 'keydown')
      else if (key === 'escape' && event.type === 'keydown') close()
    }
    window.addEventListener('keydown', onKey)
    window.addEventListener('keyup', onKey)
    return () => {
      window.removeEventListener('keydown', onKey)
      window.removeEventListener('keyup', onKey)
    }
  }, [undo, redo, setUntouched, close])
}
