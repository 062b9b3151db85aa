'use client'

import { useState } from 'react'
import { TAKES, type Take, type TakeEnding } from '@/schemas/formats'
import { runJob } from '../api'
import { message } from '../messages'
import { fetchFile } from '../save'
import { useUnits } from '../units'
import styles from './deliver.module.css'

/** What each is, and what it is for. */
const WORDS: Record<Take, { name: string; use: string }> = {
  frames: { name: 'The registered frames', use: 'TIFFs of 16 bits, to be put together by hand elsewhere' },
  masks: { name: 'Which frame shows where', use: 'the map, and a mask for each frame' },
  focusRun: { name: 'The focus going through', use: 'the frames one after the other, there and back' },
  rocking: { name: 'Rocking gently', use: 'the picture moves as the head does' },
  stereo: { name: 'A stereo pair', use: 'for a viewer, or eyes that look straight ahead' },
  crossed: { name: 'A stereo pair, crossed', use: 'for eyes that cross' },
  relief: { name: 'The relief', use: 'to turn (GLB), print (STL) or go on with (OBJ, PLY)' },
}

/** What is given as it is when it is asked for. */
const KEPT = {
  record: { name: 'The record', use: 'one page: plan, run, survey, settings, picture', ending: 'PDF' },
  contact: { name: 'The contact sheet', use: 'all frames of the run, small', ending: 'PDF' },
  depth: { name: 'The depth', use: 'a PNG of 16 bits', ending: 'PNG' },
  confidence: { name: 'How sure the depth is', use: 'white where it is', ending: 'PNG' },
  json: { name: 'The report', use: 'settings, motions, what each frame gave', ending: 'JSON' },
}

interface Props {
  renderId: number
  title: string
  kinds: Take[]
  kept?: (keyof typeof KEPT)[]
  /** The run of the render, for its contact sheet. */
  runId: number
}

/** Things to take along beside the picture: each is written when it is asked for. */
export function TakeAlong({ renderId, runId, title, kinds, kept = [] }: Props) {
  const [writing, setWriting] = useState<string>()
  const units = useUnits().system === 'inches' ? '?units=inches' : ''
  const take = async (what: Take, ending: TakeEnding) => {
    setWriting(`${what} ${ending}`)
    try {
      const result = await runJob<'take'>(`/api/renders/${renderId}/take`, { what, ending })
      fetchFile(`/api/renders/${renderId}/finished?name=${encodeURIComponent(result!.name)}`)
    } catch (cause) {
      void message.error((cause as Error).message)
    } finally {
      setWriting(undefined)
    }
  }
  const addressOf = (what: keyof typeof KEPT) => (what === 'contact' ? `/api/runs/${runId}/contact` : `/api/renders/${renderId}/${what}`) + units
  return (
    <section aria-label={title} className={styles.along}>
      <h2>{title}</h2>
      <ul>
        {kinds.map((what) => (
          <li key={what}>
            <span>
              {WORDS[what].name}
              <small>{WORDS[what].use}</small>
            </span>
            {TAKES[what].map((ending) => (
              <button
                key={ending}
                type="button"
                disabled={writing !== undefined}
                aria-label={`${WORDS[what].name} as ${ending.toUpperCase()}`}
                onClick={() => void take(what, ending)}
              >
                {writing === `${what} ${ending}` ? '…' : ending.toUpperCase()}
              </button>
            ))}
          </li>
        ))}
        {kept.map((what) => (
          <li key={what}>
            <span>
              {KEPT[what].name}
              <small>{KEPT[what].use}</small>
            </span>
            <button type="button" aria-label={`${KEPT[what].name} as ${KEPT[what].ending}`} onClick={() => fetchFile(addressOf(what))}>
              {KEPT[what].ending}
            </button>
          </li>
        ))}
      </ul>
    </section>
  )
}
