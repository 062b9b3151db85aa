import { bodySeriesOf, type PlanSheet, type SheetPlan } from '@/core/sheet'
import type { UnitSystem } from '@/core/units'
import { AidSwitches } from '../AidSwitches'
import { Gaps } from '../Gaps'
import { LogList } from '../LogList'
import { LoggedRuns } from '../LoggedRuns'
import { Preparation } from '../Preparation'
import { TouchButton } from '../TouchButton'
import { ToTake } from '../ToTake'
import { useAwake } from '../useAwake'
import { useCard } from '../useCard'
import styles from '../field.module.css'
import { TakeHome } from './TakeHome'
import { useCardLog } from './useCardLog'

/** What a card file holds beside its scripts. */
export interface CardFile {
  /** A name of its own: two files of one shoot keep two logs. */
  card: string
  shoot: string
  title: string
  subject: string
  units: UnitSystem
}

interface Props {
  file: CardFile
  planned: SheetPlan
  sheet: PlanSheet
}

/** The live run card in one file: everything that needs neither the application nor its devices. */
export function OneFileCard({ file, planned, sheet }: Props) {
  const { log, append, kept } = useCardLog(file.card)
  const { focusLine, runs, current, progress, readings, card, phases } = useCard({
    planned,
    sheet,
    shoot: file,
    log,
    units: file.units,
    byDevices: false,
  })
  const { rows, ahead, gaps, paused, prepared } = progress
  const taken = rows.some(({ what }) => what !== 'missed')
  useAwake(taken && ahead.length > 0 && !paused)
  return (
    <main className={`${styles.field} ${styles.alone}`}>
      <h1>{file.title}</h1>
      <p className={styles.quiet}>{card.headline}</p>
      <ToTake
        progress={progress}
        planned={planned}
        focusLine={focusLine}
        readings={readings}
        phases={phases}
        busy={false}
        body={bodySeriesOf(planned, sheet)}
        onTaken={(position) => append({ kind: 'taken', position })}
        onEntry={append}
      />
      <Gaps gaps={gaps} readings={readings} onFilled={(frame) => append({ kind: 'filled', position: focusLine.positionOf(frame) })} />
      <div className={styles.row}>
        {!paused && taken && ahead.length > 0 && <TouchButton onClick={() => append({ kind: 'paused' })}>Pause</TouchButton>}
        {taken && <TouchButton onClick={() => append({ kind: 'repeated' })}>Taken again</TouchButton>}
        <TouchButton onClick={() => append({ kind: 'extra', what: 'divider' })}>Hand frame taken, to separate series</TouchButton>
      </div>
      <AidSwitches />
      <TakeHome file={file} log={log} kept={kept} />
      {rows.length === 0 && (
        <Preparation
          lines={card.checklist}
          cautions={card.cautions}
          done={prepared}
          onChange={(line, done) => append({ kind: 'prepared', line, done })}
        />
      )}
      <LogList rows={rows} count={planned.plan.frameCount} readings={readings} focusLine={focusLine} onEntry={append} />
      <LoggedRuns runs={runs} current={current} focusLine={focusLine} onEntry={append} />
    </main>
  )
}
