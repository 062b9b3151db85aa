'use client'

import { keepPreviousData, QueryClient, useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect } from 'react'
import type { Kit, KitItem, Shelf } from '@/core/kit'
import type { SurveyReport } from '@/core/survey'
import type { BinKind, JobDetail, JobKind, JobResults, RenderDetail, ShootDetail, ShootPage, ShootQuery, ShootRequest, ShootWords } from '@/schemas'
import { listenToJobs } from './jobEvents'

/** What a route refused, with the field to mend where there is one. */
export class RefusedError extends Error {
  constructor(
    message: string,
    readonly field = '',
    readonly code = '',
  ) {
    super(message)
  }
}

/** Fetches JSON; a refusal becomes a RefusedError with the server's sentence. */
export async function fetchJson<T>(address: string, options?: RequestInit): Promise<T> {
  const response = await fetch(address, options).catch(() => {
    throw new RefusedError('The application does not answer. Check that it is still running.', '', 'offline')
  })
  const body = await response.json().catch(() => ({}))
  if (!response.ok) throw new RefusedError(body.error ?? 'The application could not answer.', body.field, body.code)
  return body as T
}

/** `keepalive`: the request outlives the page; of at most 64 kB. */
export const send = <T>(address: string, method: string, body?: unknown, keepalive = false) =>
  fetchJson<T>(address, {
    method,
    keepalive,
    headers: { 'content-type': 'application/json' },
    body: body === undefined ? undefined : JSON.stringify(body),
  })

export function createQueryClient(): QueryClient {
  return new QueryClient({ defaultOptions: { queries: { staleTime: 2000, retry: 1 } } })
}

/** Shoots that are asked for, a part after the other. */
export const useShoots = (asked: Pick<ShootQuery, 'words' | 'state' | 'order'> = ALL_SHOOTS) =>
  useInfiniteQuery({
    queryKey: ['shoots', asked],
    queryFn: ({ pageParam }) => fetchJson<ShootPage>(`/api/shoots?${new URLSearchParams({ ...asked, from: String(pageParam) })}`),
    initialPageParam: 0,
    getNextPageParam: ({ found }, pages) => nextFrom(found, pages, ({ shoots }) => shoots.length),
    placeholderData: keepPreviousData,
  })

const ALL_SHOOTS = { words: '', state: '', order: 'changed' } as const

/** Where the next part of a list begins; nothing where all of it is there. */
export function nextFrom<Page>(count: number, pages: Page[], lengthOf: (page: Page) => number): number | undefined {
  const from = pages.reduce((sum, page) => sum + lengthOf(page), 0)
  return from < count && lengthOf(pages[pages.length - 1]) > 0 ? from : undefined
}

/** A render with its whole report, which never changes; nothing is asked for without a number. */
export const useRender = (id: number | undefined) =>
  useQuery({ queryKey: ['render', id], enabled: id !== undefined, staleTime: Infinity, queryFn: () => fetchJson<RenderDetail>(`/api/renders/${id}`) })

export const useShoot = (id: number) => useQuery({ queryKey: ['shoot', id], queryFn: () => fetchJson<ShootDetail>(`/api/shoots/${id}`) })

export const useKit = () => useQuery({ queryKey: ['kit'], queryFn: () => fetchJson<Kit>('/api/kit') })

const ASK_AGAIN_ms = 400

/** Has the application do heavy work and waits until it has. Throws a RefusedError with what went wrong. */
export async function runJob<K extends JobKind>(address: string, body?: unknown, method = 'POST'): Promise<JobResults[K] | null> {
  const { id } = await send<{ id: number | null }>(address, method, body)
  return id === null ? null : waitForJob<K>(id)
}

/** What a job answers once it has ended. */
export async function waitForJob<K extends JobKind>(id: number): Promise<JobResults[K]> {
  for (;;) {
    const job = await fetchJson<JobDetail>(`/api/jobs/${id}`)
    if (job.state === 'done') return job.result as JobResults[K]
    if (job.state !== 'queued' && job.state !== 'running')
      throw new RefusedError(job.error ?? 'This was cancelled.', '', job.error_code ?? `job.${job.state}`)
    await new Promise((resolve) => setTimeout(resolve, ASK_AGAIN_ms))
  }
}

/** Adds an item to a shelf of the kit, or changes the one of the number given. */
export function useSaveKitItem() {
  const client = useQueryClient()
  return useMutation({
    mutationFn: ({ shelf, item, id }: { shelf: Shelf; item: KitItem; id?: number }) =>
      send(`/api/kit/${shelf}${id === undefined ? '' : `?id=${id}`}`, 'PUT', item),
    onSettled: () => client.invalidateQueries({ queryKey: ['kit'] }),
  })
}

export function useRemoveKitItem() {
  const client = useQueryClient()
  return useMutation({
    mutationFn: ({ shelf, id }: { shelf: Shelf; id: number }) => send(`/api/kit/${shelf}?id=${id}`, 'DELETE'),
    onSettled: () => client.invalidateQueries({ queryKey: ['kit'] }),
  })
}

/** Takes in an exported kit; answers how many items it held. */
export function useTakeKit() {
  const client = useQueryClient()
  return useMutation({
    mutationFn: async (kit: unknown) => (await send<{ taken: number }>('/api/kit', 'POST', kit)).taken,
    onSettled: () => client.invalidateQueries({ queryKey: ['kit'] }),
  })
}

/** Creates a shoot, or changes the plan of the one given. Answers its id. */
export function useSaveShoot(id?: number) {
  const client = useQueryClient()
  return useMutation({
    mutationFn: async (shoot: ShootRequest) => {
      if (id === undefined) return (await send<{ id: number }>('/api/shoots', 'POST', shoot)).id
      await send(`/api/shoots/${id}`, 'PUT', shoot)
      return id
    },
    onSuccess: () => client.invalidateQueries(),
  })
}

/** Changes what a shoot is called. */
export function useRenameShoot() {
  const client = useQueryClient()
  return useMutation({
    mutationFn: ({ id, ...words }: { id: number } & ShootWords) => send(`/api/shoots/${id}/words`, 'PUT', words),
    onSuccess: () => client.invalidateQueries(),
  })
}

/** The same plan as a shoot of its own. Answers its id. */
export function usePlanAgain() {
  const client = useQueryClient()
  return useMutation({
    mutationFn: async (id: number) => (await send<{ id: number }>(`/api/shoots/${id}/again`, 'POST')).id,
    onSuccess: () => client.invalidateQueries({ queryKey: ['shoots'] }),
  })
}

/** Puts something into the bin. */
export function useDelete() {
  const client = useQueryClient()
  return useMutation({
    mutationFn: ({ kind, id }: { kind: BinKind; id: number }) => send(`/api/${kind}s/${id}`, 'DELETE'),
    onSettled: () => client.invalidateQueries(),
  })
}

/** A command to the server that changes a shoot. */
export function useCommand<T = void, R = unknown>(shootId: number, run: (input: T) => Promise<R>) {
  const client = useQueryClient()
  return useMutation({ mutationFn: run, onSettled: () => client.invalidateQueries({ queryKey: ['shoot', shootId] }) })
}

/** What a check of a run found is shown at once: who stands at the camera waits for it. */
function withFindings(shoot: ShootDetail, { kind, state, run_id, result }: JobDetail): ShootDetail {
  if (kind !== 'survey' || state !== 'done' || !result) return shoot
  return { ...shoot, runs: shoot.runs.map((run) => (run.id === run_id ? { ...run, survey: result as SurveyReport } : run)) }
}

/** Keeps a shoot's data fresh from the server's events. */
export function useShootEvents(shootId: number): void {
  const client = useQueryClient()
  useEffect(() => {
    const refresh = () => void client.invalidateQueries({ queryKey: ['shoot', shootId] })
    const onJob = (job: JobDetail) => {
      if (job.shoot_id !== shootId) return
      client.setQueryData<ShootDetail>(
        ['shoot', shootId],
        (shoot) => shoot && withFindings({ ...shoot, jobs: [job, ...shoot.jobs.filter(({ id }) => id !== job.id)] }, job),
      )
      if (job.state !== 'running' || job.kind === 'shoot') refresh()
    }
    return listenToJobs({ onJob, onOpen: refresh })
  }, [client, shootId])
}
