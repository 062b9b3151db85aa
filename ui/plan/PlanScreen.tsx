'use client'

import { Alert, App, Button, Select } from 'antd'
import { useRouter } from 'next/navigation'
import { useMemo, useRef, useState } from 'react'
import type { Plan, PlanRequest } from '@/core/plan'
import { LENSES } from '@/demo/kit'
import { SCENES } from '@/core/simulate'
import type { ShootDetail, ShootRequest } from '@/schemas'
import { useSaveShoot } from '../api'
import { DepthRibbon } from '../ribbon'
import { Shell, ShootHeader } from '../shell'
import { draftOf, NEW_DRAFT, planOf, requestOf, type Draft } from './draft'
import { PlanCharts } from './PlanCharts'
import { PlanInputs } from './PlanInputs'
import { PlanNumbers } from './PlanNumbers'
import styles from './plan.module.css'
import { Positions } from './Positions'
import { oneFrameText, verdictOf } from './verdict'

/** Plans a new shoot, or changes the plan of `shoot`: verdict, ribbon and figures follow every keystroke. */
export function PlanScreen({ shoot }: { shoot?: ShootDetail }) {
  const [draft, setDraft] = useState<Draft>(() => (shoot ? draftOf(shoot) : NEW_DRAFT))
  const planned = useMemo(() => planOf(draft), [draft])
  // While a field is being mended the last plan stays in view, marked as such.
  const lastGood = useRef<{ plan: Plan; request: PlanRequest } | undefined>(undefined)
  if ('plan' in planned) lastGood.current = planned
  const shown = lastGood.current
  const [refused, setRefused] = useState<{ field: string; error: string }>()
  const error = 'error' in planned ? planned : refused
  const router = useRouter()
  const { message } = App.useApp()
  const save = useSaveShoot(shoot?.id)

  const change = (part: Partial<Draft>) => {
    setRefused(undefined)
    setDraft((before) => ({ ...before, ...part }))
  }
  const submit = async () => {
    if (!draft.title.trim()) return setRefused({ field: 'title', error: 'Give the shoot a title.' })
    try {
      const body = { title: draft.title, subject: draft.subject, scene: draft.scene, plan: requestOf(draft) } as ShootRequest
      router.push(`/shoots/${await save.mutateAsync(body)}/shoot`)
    } catch (cause) {
      message.error((cause as Error).message)
    }
  }

  return (
    <Shell>
      {shoot ? <ShootHeader shoot={shoot} step="plan" /> : <h1 className={styles.title}>Plan a shoot</h1>}
      <div className={styles.columns}>
        <form
          className={styles.inputs}
          onSubmit={(event) => {
            event.preventDefault()
            void submit()
          }}
        >
          <PlanInputs draft={draft} onChange={change} error={error} />
          <fieldset>
            <legend>Stand-in camera sees</legend>
            <Select
              aria-label="Scene"
              value={draft.scene}
              onChange={(scene) => change({ scene })}
              options={Object.keys(SCENES).map((name) => ({ value: name, label: name }))}
              className={styles.wide}
            />
          </fieldset>
          <Button type="primary" htmlType="submit" block disabled={'error' in planned} loading={save.isPending}>
            {shoot ? 'Keep this plan' : 'Keep the plan and go to the shoot'}
          </Button>
        </form>
        <section className={styles.answer} aria-live="polite">
          {'error' in planned && <Alert type="warning" title={planned.error} showIcon />}
          {shown && (
            <div className={'error' in planned ? styles.stale : undefined}>
              <p className={styles.verdict} data-testid="verdict">
                {verdictOf(shown.plan, shown.request)}
              </p>
              <p className={styles.quiet}>{oneFrameText(shown.plan, LENSES.find(({ name }) => name === draft.lens)?.smallestFNumber)}</p>
              <DepthRibbon plan={shown.plan} request={shown.request} />
              {shown.plan.notes.map(({ code, text }) => (
                <Alert key={code} type="info" title={text} className={styles.note} />
              ))}
              <PlanNumbers plan={shown.plan} request={shown.request} />
              <PlanCharts plan={shown.plan} request={shown.request} />
              <Positions plan={shown.plan} request={shown.request} title={draft.title} />
            </div>
          )}
        </section>
      </div>
    </Shell>
  )
}
