'use client'

import { ArrowDownOutlined, ArrowUpOutlined, CloseOutlined, EyeInvisibleOutlined, EyeOutlined } from '@ant-design/icons'
import { Dropdown } from 'antd'
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
  editor?: React.ReactNode
}

/** The recipe as sentences, in the order in which they are carried out. */
export function StepList({ steps, open, missing, onOpen, onSteps, onAdd, editor }: Props) {
  const swapped = (k: number, other: number) => {
    const next = [...steps]
    ;[next[k], next[other]] = [next[other], next[k]]
    onSteps(next, open === k ? other : open === other ? k : open)
  }
  const menu = (Object.keys(STEP_NAMES) as StepName[]).filter((name) => !missing.includes(name))
  return (
    <section aria-label="Recipe" className={styles.recipe}>
      {steps.length === 0 && <p className={styles.none}>The picture is delivered as it was made. Add what is to be done to it.</p>}
      <ol aria-label="Steps">
        {steps.map((step, k) => (
          <li key={k} data-off={step.off === true} data-open={k === open}>
            <div className={styles.sentence}>
              <button type="button" aria-expanded={k === open} onClick={() => onOpen(k === open ? undefined : k)}>
                {stepText(step)}
              </button>
              <Small label={`Move “${stepText(step)}” up`} disabled={k === 0} onClick={() => swapped(k, k - 1)}>
                <ArrowUpOutlined />
              </Small>
              <Small label={`Move “${stepText(step)}” down`} disabled={k === steps.length - 1} onClick={() => swapped(k, k + 1)}>
                <ArrowDownOutlined />
              </Small>
              <Small
                label={`${step.off ? 'Switch on' : 'Switch off'} “${stepText(step)}”`}
                onClick={() => onSteps(steps.map((each, n) => (n === k ? { ...each, off: each.off ? undefined : true } : each)))}
              >
                {step.off ? <EyeInvisibleOutlined /> : <EyeOutlined />}
              </Small>
              <Small
                label={`Remove “${stepText(step)}”`}
                onClick={() =>
                  onSteps(
                    steps.filter((_, n) => n !== k),
                    open === undefined || open === k ? undefined : open > k ? open - 1 : open,
                  )
                }
              >
                <CloseOutlined />
              </Small>
            </div>
            {k === open && <div className={styles.editor}>{editor}</div>}
          </li>
        ))}
      </ol>
      <Dropdown
        trigger={['click']}
        menu={{ items: menu.map((name) => ({ key: name, label: STEP_NAMES[name] })), onClick: ({ key }) => onAdd(key as StepName) }}
      >
        <button type="button" className={styles.add}>
          Add a step
        </button>
      </Dropdown>
    </section>
  )
}

function Small({ label, disabled, onClick, children }: { label: string; disabled?: boolean; onClick: () => void; children: React.ReactNode }) {
  return (
    <button type="button" className={styles.small} aria-label={label} title={label} disabled={disabled} onClick={onClick}>
      {children}
    </button>
  )
}
