'use client'

import { Button, Select, Skeleton } from 'antd'
import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useEffect, useState } from 'react'
import type { Kit } from '@/core/kit'
import { verdictOf } from '@/core/sheet'
import { momentText } from '@/core/units'
import { SCENE_NAMES } from '@/core/simulate'
import type { ShootDetail } from '@/schemas'
import { message } from '../messages'
import { RefusedError, useKit, useSaveShoot } from '../api'
import { Shell, ShootHeader } from '../shell'
import { useUnits } from '../units'
import { Answer } from './answer'
import { AroundInputs, KitInputs, LightInputs, MoverInputs, SharpnessInputs, SubjectInputs } from './inputs'
import styles from './plan.module.css'
import { draftName, useDrafts } from './drafts'
import { createPlanStore, PlanStoreProvider, PlanWords, usePlan } from './planStore'

/** Plans a new shoot, or changes the plan of `shoot`. */
export function PlanScreen({ shoot }: { shoot?: ShootDetail }) {
  const { data: kit, error } = useKit()
  return (
    <Shell>
      {shoot ? <ShootHeader shoot={shoot} step="plan" /> : <h1 className={styles.title}>Plan a shoot</h1>}
      {kit && <PlanForm key={shoot?.id} kit={kit} shoot={shoot} />}
      {!kit && (error ? <p role="alert">▲ {error.message}</p> : <Skeleton active />)}
    </Shell>
  )
}

function PlanForm({ kit, shoot }: { kit: Kit; shoot?: ShootDetail }) {
  const name = draftName(shoot?.id)
  const [store, setStore] = useState(() => createPlanStore(kit, shoot, useDrafts.getState().drafts[name]))
  const draft = useDrafts(({ drafts }) => drafts[name])
  const { put, drop } = useDrafts.getState()
  useEffect(
    () =>
      store.subscribe(({ sheet, words }, before) => {
        if (sheet !== before.sheet || words !== before.words) put(name, { sheet, words, at: new Date().toISOString() })
      }),
    [store, name, put],
  )
  const dropDraft = () => {
    drop(name)
    setStore(createPlanStore(kit, shoot))
  }
  useEffect(() => store.getState().useKit(kit), [store, kit])
  const router = useRouter()
  const save = useSaveShoot(shoot?.id)

  const keep = async (then: string) => {
    const { words, shown, stale, refuse } = store.getState()
    if (!words.title.trim()) {
      refuse({ field: 'title', error: 'Give the shoot a title.' })
      // The field may be far up: go there.
      return document.getElementById('plan-title')?.focus()
    }
    if (!shown || stale) return
    try {
      const id = await save.mutateAsync({ ...words, plan: shown.request, sheet: shown.sheet })
      drop(name)
      router.push(`/shoots/${id}/${then}`)
    } catch (cause) {
      if (cause instanceof RefusedError && cause.field === 'title') refuse({ field: 'title', error: cause.message })
      message.error((cause as Error).message)
    }
  }

  return (
    <PlanStoreProvider value={store}>
      <div className={styles.columns}>
        <form className={styles.inputs} onSubmit={(event) => event.preventDefault()}>
          {draft && (
            <p className={styles.draft} role="status">
              Not saved yet, changed {momentText(draft.at)}. It stays here if you leave.{' '}
              <Button size="small" onClick={dropDraft}>
                {shoot ? 'Drop the changes' : 'Start over'}
              </Button>
            </p>
          )}
          <SubjectInputs />
          <KitInputs />
          <SharpnessInputs />
          <MoverInputs />
          <LightInputs />
          <AroundInputs />
          <SceneInput />
          <Keep shoot={shoot} busy={save.isPending} onKeep={keep} />
        </form>
        <section className={styles.answer} aria-live="polite" aria-label="The plan">
          <Answer />
        </section>
      </div>
      <Foot busy={save.isPending} onKeep={keep} />
    </PlanStoreProvider>
  )
}

interface KeepProps {
  busy: boolean
  onKeep: (then: string) => Promise<void>
}

function Keep({ shoot, busy, onKeep }: KeepProps & { shoot?: ShootDetail }) {
  const stale = usePlan((state) => state.stale)
  return (
    <div className={styles.keep}>
      <Button type="primary" disabled={stale} loading={busy} onClick={() => void onKeep('shoot')}>
        {shoot ? 'Save this plan' : 'Save the plan and start shooting'}
      </Button>
      <Button disabled={stale} onClick={() => void onKeep('card')}>
        Save and print the run card
      </Button>
      {shoot && <Link href={`/shoots/${shoot.id}/card`}>Run card of the saved plan</Link>}
    </div>
  )
}

/** On a phone the verdict and the way on stay at the foot, whatever field is being filled in. */
function Foot({ busy, onKeep }: KeepProps) {
  const { system } = useUnits()
  const stale = usePlan((state) => state.stale)
  return (
    <div className={styles.foot}>
      <span>
        <PlanWords of={({ error, shown }) => error?.error ?? (shown && verdictOf(shown.plan, shown.request, shown.gear.lens, system).headline)} />
      </span>
      <Button type="primary" disabled={stale} loading={busy} onClick={() => void onKeep('shoot')}>
        Save
      </Button>
    </div>
  )
}

const SCENE_OPTIONS = SCENE_NAMES.map((name) => ({ value: name, label: name }))

function SceneInput() {
  const scene = usePlan(({ words }) => words.scene)
  const changeWords = usePlan((state) => state.changeWords)
  return (
    <fieldset>
      <legend>Stand-in camera sees</legend>
      <Select aria-label="Scene" value={scene} onChange={(next) => changeWords({ scene: next })} options={SCENE_OPTIONS} className={styles.wide} />
    </fieldset>
  )
}
