'use client'

import { Alert, Button, Select, Skeleton } from 'antd'
import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useEffect, useState } from 'react'
import type { Kit } from '@/core/kit'
import { verdictOf } from '@/core/sheet'
import { SCENES } from '@/core/simulate'
import type { ShootDetail } from '@/schemas'
import { message } from '../messages'
import { RefusedError, useKit, useSaveShoot } from '../api'
import { Shell, ShootHeader } from '../shell'
import { useUnits } from '../units'
import { Answer } from './answer'
import { AroundInputs, KitInputs, LightInputs, MoverInputs, SharpnessInputs, SubjectInputs } from './inputs'
import styles from './plan.module.css'
import { createPlanStore, PlanStoreProvider, PlanWords, usePlan } from './planStore'

/** Plans a new shoot, or changes the plan of `shoot`. */
export function PlanScreen({ shoot }: { shoot?: ShootDetail }) {
  const { data: kit, error } = useKit()
  return (
    <Shell>
      {shoot ? <ShootHeader shoot={shoot} step="plan" /> : <h1 className={styles.title}>Plan a shoot</h1>}
      {kit && <PlanForm key={shoot?.id} kit={kit} shoot={shoot} />}
      {!kit && (error ? <Alert type="error" title={error.message} /> : <Skeleton active />)}
    </Shell>
  )
}

function PlanForm({ kit, shoot }: { kit: Kit; shoot?: ShootDetail }) {
  const [store] = useState(() => createPlanStore(kit, shoot))
  useEffect(() => store.getState().useKit(kit), [store, kit])
  const router = useRouter()
  const save = useSaveShoot(shoot?.id)

  const keep = async (then: string) => {
    const { words, shown, stale, refuse } = store.getState()
    if (!words.title.trim()) return refuse({ field: 'title', error: 'Give the shoot a title.' })
    if (!shown || stale) return
    try {
      router.push(`/shoots/${await save.mutateAsync({ ...words, plan: shown.request, sheet: shown.sheet })}/${then}`)
    } catch (cause) {
      if (cause instanceof RefusedError && cause.field === 'title') refuse({ field: 'title', error: cause.message })
      message.error((cause as Error).message)
    }
  }

  return (
    <PlanStoreProvider value={store}>
      <div className={styles.columns}>
        <form
          className={styles.inputs}
          onSubmit={(event) => {
            event.preventDefault()
            void keep('shoot')
          }}
        >
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
      <Button type="primary" htmlType="submit" disabled={stale} loading={busy}>
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
        Keep
      </Button>
    </div>
  )
}

const SCENE_OPTIONS = Object.keys(SCENES).map((name) => ({ value: name, label: name }))

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
