'use client'

import { ArrowDownOutlined, ArrowUpOutlined, CloseOutlined, EyeInvisibleOutlined, EyeOutlined } from '@ant-design/icons'
import { Dropdown } from 'antd'
import { memo, useCallback, useEffect, useMemo, useRef, type ReactNode } from 'react'
import { stepText, type Step, type StepName } from '@/core/finish'
import { STEP_NAMES } from './newStep'
import styles from './deliver.module.css'

interface Props {
  steps: Step[]
  open?: number
  /** Steps that cannot be added to this picture. */
  missing: StepName[]
  onOpen: (index: number | undefined) => void
  onSteps: (steps: Step[], open?: number) => void
  onAdd: (name: StepName) => void
  /** What the step that is open is changed by. */
  editor?: ReactNode
}

/** The recipe as sentences, in the order in which they are carried out. */
export function StepList({ steps, open, missing, onOpen, onSteps, onAdd, editor }: Props) {
  // What a row calls stays the same while a step is dragged: then only the row of that step is drawn anew.
  const latest = useRef({ steps, open, onOpen, onSteps, onAdd })
  useEffect(() => {
    latest.current = { steps, open, onOpen, onSteps, onAdd }
  })
  const onRow = useCallback((what: RowAction, k: number) => {
    const { steps, open, onOpen, onSteps } = latest.current
    if (what === 'open') onOpen(k === open ? undefined : k)
    else onSteps(...ROW_ACTIONS[what](steps, open, k))
  }, [])
  const addStep = useCallback((name: StepName) => latest.current.onAdd(name), [])
  return (
    <section aria-label="Recipe" className={styles.recipe}>
      {steps.length === 0 && <p className={styles.none}>The picture is delivered as it was made. Add what is to be done to it.</p>}
      <ol aria-label="Steps">
        {steps.map((step, k) => (
          <Row key={k} step={step} place={k} last={k === steps.length - 1} open={k === open} onRow={onRow}>
            {k === open ? editor : undefined}
          </Row>
        ))}
      </ol>
      <AddStep missing={missing.join()} onAdd={addStep} />
    </section>
  )
}

type RowAction = 'open' | keyof typeof ROW_ACTIONS

const swapped = (steps: Step[], open: number | undefined, k: number, other: number): [Step[], number?] => {
  const next = [...steps]
  ;[next[k], next[other]] = [next[other], next[k]]
  return [next, open === k ? other : open === other ? k : open]
}

/** What the buttons of the row at `k` make of the steps, and which is open then. */
const ROW_ACTIONS = {
  up: (steps: Step[], open: number | undefined, k: number) => swapped(steps, open, k, k - 1),
  down: (steps: Step[], open: number | undefined, k: number) => swapped(steps, open, k, k + 1),
  toggle: (steps: Step[], open: number | undefined, k: number): [Step[], number?] => [
    steps.map((each, n) => (n === k ? { ...each, off: each.off ? undefined : true } : each)),
    open,
  ],
  remove: (steps: Step[], open: number | undefined, k: number): [Step[], number?] => [
    steps.filter((_, n) => n !== k),
    open === undefined || open === k ? undefined : open > k ? open - 1 : open,
  ],
}

interface RowProps {
  step: Step
  place: number
  last: boolean
  open: boolean
  onRow: (what: RowAction, k: number) => void
  /** What the step is changed by, where it is open. */
  children?: ReactNode
}

const Row = memo(function Row({ step, place, last, open, onRow, children }: RowProps) {
  const text = stepText(step)
  return (
    <li data-off={step.off === true} data-open={open}>
      <div className={styles.sentence}>
        <button type="button" aria-expanded={open} onClick={() => onRow('open', place)}>
          {text}
        </button>
        <Small label={`Move “${text}” up`} disabled={place === 0} onClick={() => onRow('up', place)}>
          <ArrowUpOutlined />
        </Small>
        <Small label={`Move “${text}” down`} disabled={last} onClick={() => onRow('down', place)}>
          <ArrowDownOutlined />
        </Small>
        <Small label={`${step.off ? 'Switch on' : 'Switch off'} “${text}”`} onClick={() => onRow('toggle', place)}>
          {step.off ? <EyeInvisibleOutlined /> : <EyeOutlined />}
        </Small>
        <Small label={`Remove “${text}”`} onClick={() => onRow('remove', place)}>
          <CloseOutlined />
        </Small>
      </div>
      {open && <div className={styles.editor}>{children}</div>}
    </li>
  )
})

const AddStep = memo(function AddStep({ missing, onAdd }: { missing: string; onAdd: (name: StepName) => void }) {
  const items = useMemo(() => {
    const left = (Object.keys(STEP_NAMES) as StepName[]).filter((name) => !missing.split(',').includes(name))
    return left.map((name) => ({ key: name, label: STEP_NAMES[name] }))
  }, [missing])
  return (
    <Dropdown trigger={['click']} menu={{ items, onClick: ({ key }) => onAdd(key as StepName) }}>
      <button type="button" className={styles.add}>
        Add a step
      </button>
    </Dropdown>
  )
})

function Small({ label, disabled, onClick, children }: { label: string; disabled?: boolean; onClick: () => void; children: ReactNode }) {
  return (
    <button type="button" className={styles.small} aria-label={label} title={label} disabled={disabled} onClick={onClick}>
      {children}
    </button>
  )
}
