'use client'

import { useInfiniteQuery, useQuery } from '@tanstack/react-query'
import { Button, Checkbox, Modal, Progress, Select } from 'antd'
import { useState } from 'react'
import { FINISHED_FORMATS, type FinishedFormat } from '@/schemas/formats'
import type { JobDetail, RecipeDetail, RenderPage } from '@/schemas'
import { fetchJson, nextFrom, send } from '../api'
import { message } from '../messages'
import { FORMAT_NAMES } from './Take'
import { settingsText } from '../renderText'
import { fetchFile } from '../save'
import styles from './deliver.module.css'

interface Props {
  shootId: number
  kept: RecipeDetail[]
  onClose: () => void
}

const ENDED = ['done', 'failed', 'cancelled', 'interrupted']

/** A kept recipe carried out on many renders, of this shoot and others: each is a job of its own, and one that fails stops no other. */
export function Batch({ shootId, kept, onClose }: Props) {
  const [recipe, setRecipe] = useState(kept[0].id)
  const [format, setFormat] = useState<FinishedFormat>('jpg')
  const [chosen, setChosen] = useState<number[]>([])
  const [jobs, setJobs] = useState<number[]>()
  const { data: list, hasNextPage, isFetchingNextPage, fetchNextPage } = useRenders(shootId)
  const rows = list?.pages.flatMap(({ renders }) => renders.map((of) => ({ render: of.id, text: `${of.shootTitle}: ${settingsText(of)}` }))) ?? []
  const { data: states = [] } = useQuery({
    queryKey: ['batch', jobs],
    enabled: jobs !== undefined,
    queryFn: () => Promise.all(jobs!.map((id) => fetchJson<JobDetail>(`/api/jobs/${id}`))),
    refetchInterval: ({ state: { data } }) => (data?.every(({ state }) => ENDED.includes(state)) ? false : 500),
  })
  const begin = () =>
    send<{ jobs: number[] }>(`/api/recipes/${recipe}/apply`, 'POST', { renders: chosen, format }).then(
      (answer) => setJobs(answer.jobs),
      (cause: Error) => void message.error(cause.message),
    )
  const cancel = () =>
    states.filter(({ state }) => !ENDED.includes(state)).forEach(({ id }) => void send(`/api/jobs/${id}/cancel`, 'POST').catch(() => undefined))
  const ended = states.filter(({ state }) => ENDED.includes(state)).length
  const running = jobs !== undefined && ended < jobs.length
  return (
    <Modal
      open
      title="Finish many pictures"
      okText={jobs ? 'Close' : `Finish ${chosen.length}`}
      okButtonProps={{ disabled: !jobs && chosen.length === 0 }}
      cancelText={running ? 'Stop what is left' : 'Cancel'}
      cancelButtonProps={jobs && !running ? { style: { display: 'none' } } : undefined}
      onOk={() => (jobs ? onClose() : void begin())}
      onCancel={() => (running ? cancel() : onClose())}
    >
      {!jobs && (
        <div className={styles.batch}>
          <Select aria-label="Recipe" value={recipe} onChange={setRecipe} options={kept.map(({ id, name }) => ({ value: id, label: name }))} />
          <Select
            aria-label="Format of all"
            value={format}
            onChange={setFormat}
            options={FINISHED_FORMATS.map((value) => ({ value, label: FORMAT_NAMES[value] }))}
          />
          <Checkbox.Group
            value={chosen}
            onChange={(values) => setChosen(values as number[])}
            options={rows.map(({ render, text }) => ({ value: render, label: text }))}
          />
          {hasNextPage && (
            <Button loading={isFetchingNextPage} onClick={() => void fetchNextPage()}>
              Show more
            </Button>
          )}
        </div>
      )}
      {jobs && (
        <>
          <Progress percent={Math.round((100 * ended) / jobs.length)} />
          <ul className={styles.batch} aria-label="Pictures">
            {states.map(({ id, state, error, render_id, result }) => (
              <li key={id}>
                {rows.find(({ render }) => render === render_id)?.text}: {state === 'failed' ? `▲ ${error}` : state === 'done' ? 'finished' : state}{' '}
                {state === 'done' && result && 'name' in result && (
                  <button type="button" onClick={() => fetchFile(`/api/renders/${render_id}/finished?name=${encodeURIComponent(result.name)}`)}>
                    Take
                  </button>
                )}
              </li>
            ))}
          </ul>
        </>
      )}
    </Modal>
  )
}

/** Every render that there is, this shoot's first, a part after the other. */
const useRenders = (shootId: number) =>
  useInfiniteQuery({
    queryKey: ['renders to finish', shootId],
    queryFn: ({ pageParam }) => fetchJson<RenderPage>(`/api/renders?first=${shootId}&from=${pageParam}`),
    initialPageParam: 0,
    getNextPageParam: ({ all }, pages) => nextFrom(all, pages, ({ renders }) => renders.length),
  })
