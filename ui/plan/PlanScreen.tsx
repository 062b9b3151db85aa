'use client'

import { App, Button, Select, Skeleton } from 'antd'
import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useCallback, useState } from 'react'
import type { Kit } from '@/core/kit'
import { verdictOf } from '@/core/sheet'
import { SCENES } from '@/core/simulate'
import type { ShootDetail } from '@/schemas'
import { RefusedError, useKit, useSaveShoot } from '../api'
import { Shell, ShootHeader } from '../shell'
import { useUnits } from '../units'
import { Answer } from './answer'
import { AroundInputs, KitInputs, LightInputs, MoverInputs, SharpnessInputs, SubjectInputs } from './inputs'
import styles from './plan.module.css'
import { SheetProvider, usePlanSheet, type FieldError } from './usePlanSheet'

/** Plans a new shoot, or changes the plan of `shoot`. */
export function PlanScreen({ shoot }: { shoot?: ShootDetail }) {
  const { data: kit } = useKit()
  return (
    <Shell>
      {shoot ? <ShootHeader shoot={shoot} step="plan" /> : <h1 className={styles.title}>Plan a shoot</h1>}
      {kit ? <PlanForm key={shoot?.id} kit={kit} shoot={shoot} /> : <Skeleton active />}
    </Shell>
  )
}

function PlanForm({ kit, shoot }: { kit: Kit; shoot?: ShootDetail }) {
  const [refused, setRefused] = useState<FieldError>()
  const clear = useCallback(() => setRefused(undefined), [])
  const state = usePlanSheet(kit, shoot, refused, clear)
  const { shown, stale, words, changeWords } = state
  const { system } = useUnits()
  const router = useRouter()
  const { message } = App.useApp()
  const save = useSaveShoot(shoot?.id)

  const keep = async (then: string) => {
    if (!words.title.trim()) return setRefused({ field: 'title', error: 'Give the shoot a title.' })
    if (!shown || stale) return
    try {
      router.push(`/shoots/${await save.mutateAsync({ ...words, plan: shown.request, sheet: shown.sheet })}/${then}`)
    } catch (cause) {
      if (cause instanceof RefusedError && cause.field === 'title') setRefused({ field: 'title', error: cause.message })
      message.error((cause as Error).message)
    }
  }

  return (
    <SheetProvider value={state}>
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
          <fieldset>
            <legend>Stand-in camera sees</legend>
            <Select
              aria-label="Scene"
              value={words.scene}
              onChange={(scene) => changeWords({ scene })}
              options={Object.keys(SCENES).map((name) => ({ value: name, label: name }))}
              className={styles.wide}
            />
          </fieldset>
          <div className={styles.keep}>
            <Button type="primary" htmlType="submit" disabled={stale} loading={save.isPending}>
              {shoot ? 'Keep this plan' : 'Keep the plan and go to the shoot'}
            </Button>
            <Button disabled={stale} onClick={() => void keep('card')}>
              Keep it and print the run card
            </Button>
            {shoot && <Link href={`/shoots/${shoot.id}/card`}>Run card of the kept plan</Link>}
          </div>
        </form>
        <section className={styles.answer} aria-live="polite" aria-label="The plan">
          <Answer />
        </section>
      </div>
      <div className={styles.foot}>
        <span>{state.error ? state.error.error : shown && verdictOf(shown.plan, shown.request, shown.gear.lens, system).headline}</span>
        <Button type="primary" disabled={stale} loading={save.isPending} onClick={() => void keep('shoot')}>
          Keep
        </Button>
      </div>
    </SheetProvider>
  )
}
