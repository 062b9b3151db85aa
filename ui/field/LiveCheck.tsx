'use client'

import { useEffect, useMemo, useRef } from 'react'
import Link from 'next/link'
import { reshootList, type Reshoot, type FieldRow } from '@/core/field'
import type { FocusLine, PlannedFrame } from '@/core/plan'
import type { Readings } from '@/core/sheet'
import type { SurveyReport } from '@/core/survey'
import type { ShootDetail } from '@/schemas'
import { runJob, useCommand } from '../api'
import { surveyHeadline } from '../survey'
import styles from './field.module.css'

interface Props {
  shoot: ShootDetail
  focusLine: FocusLine
  readings: Readings
  near_mm: number
  /** The run that is being logged: the entry that began it, and its rows. */
  begunBy: string
  rows: FieldRow[]
}

const LEAST_FRAMES = 3
/** So many places to go to are listed one by one. */
const MOST_LISTED = 4

/** Surveys the newest run while frames arrive, and says in the mover's own terms what to take again before leaving. */
export function LiveCheck({ shoot, focusLine, readings, near_mm, begunBy, rows }: Props) {
  const run = shoot.runs.find((known) => known.begun_by === begunBy && known.frames.length > 0) ?? shoot.runs.find(({ frames }) => frames.length > 0)
  const survey = useCommand<void, { run: number; survey: SurveyReport }>(shoot.id, async () => ({
    run: run!.id,
    survey: (await runJob<'survey'>(`/api/runs/${run!.id}/survey`))!,
  }))
  const count = run?.frames.length ?? 0
  const surveyed = useRef(0)
  const { mutate, isPending } = survey
  useEffect(() => {
    // One survey at a time; what arrives meanwhile is seen to by the next.
    if (isPending || run?.survey || count < LEAST_FRAMES || surveyed.current === count) return
    const soon = setTimeout(() => {
      surveyed.current = count
      mutate()
    }, 600)
    return () => clearTimeout(soon)
  }, [count, run?.survey, isPending, mutate])
  // A survey that was overtaken by the next frame still tells of the frames before it.
  const last = useRef<{ run: number; survey: SurveyReport }>(undefined)
  if (survey.data) last.current = survey.data
  if (run?.survey) last.current = { run: run.id, survey: run.survey }
  const report = last.current?.run === run?.id ? last.current?.survey : undefined
  const frameOf = useMemo(() => focusOf(run, rows, focusLine, near_mm), [run, rows, focusLine, near_mm])
  if (!run || count === 0) return null
  const list = report ? reshootList(focusLine, report, frameOf) : []
  const listed = new Set(list.flatMap(({ why }) => ({ near: ['near-short'], far: ['far-short'], gap: ['gap', 'loose'] })[why]))
  return (
    <section className={styles.check} aria-label="Check">
      <h2>
        Run {run.number}: {count} {count === 1 ? 'frame' : 'frames'}
      </h2>
      {report ? <p>{surveyHeadline(report)}</p> : <p>{count < LEAST_FRAMES ? 'Checked from the third frame on.' : 'Checking…'}</p>}
      <ul>
        {list.map((entry) => (
          <li key={`${entry.why} ${entry.between?.join()}`}>▲ {textOf(entry, readings)}</li>
        ))}
        {report?.messages
          .filter(({ code }) => !listed.has(code))
          .map(({ code, text, files }) => (
            <li key={`${code} ${files.join()}`}>▲ {text}</li>
          ))}
      </ul>
      <Link href={`/shoots/${shoot.id}/shoot`}>Sort and fuse these frames</Link>
    </section>
  )
}

function textOf({ why, between, frames }: Reshoot, readings: Readings): string {
  const readingsOf = frames.map((frame) => readings.of(frame, 0)[0])
  // Many places are a way to go, not a list to read.
  const places = readingsOf.length > MOST_LISTED ? `${readingsOf[0]} to ${readingsOf.at(-1)}` : readingsOf.join('; ')
  if (why === 'gap') return `Gap between ${between!.join(' and ')}: go back to ${places}.`
  return `${why === 'near' ? 'Near' : 'Far'} end not reached: take ${frames.length} more, ${frames.length > MOST_LISTED ? 'from' : 'at'} ${places}.`
}

/** Focus of each file, where it is known: from the devices, else from the log if it tells of as many frames. */
function focusOf(run: ShootDetail['runs'][number] | undefined, rows: FieldRow[], focusLine: FocusLine, near_mm: number): Map<string, PlannedFrame> {
  if (!run) return new Map()
  const placed = run.frames.filter(({ position_mm }) => position_mm !== null)
  if (placed.length > 0) return new Map(placed.map(({ name, position_mm }) => [name, focusLine.frameAt(focusLine.placeOf(position_mm! + near_mm))]))
  // Tests and dividers are files, too, but no place on the line.
  const taken = rows.flatMap(({ what, frames }) => (what === 'missed' ? [] : frames.length > 0 ? frames : [undefined]))
  if (taken.length !== run.frames.length) return new Map()
  return new Map(run.frames.flatMap(({ name }, k) => (taken[k] ? [[name, taken[k]] as const] : [])))
}
