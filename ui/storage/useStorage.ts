import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect } from 'react'
import type { BinItem, StorageDetail } from '@/schemas'
import { fetchJson, send } from '../api'
import { listenToJobs } from '../jobEvents'

const KEY = ['storage']

/** What takes the room, kept fresh by the jobs about everything. */
export function useStorage() {
  const client = useQueryClient()
  useEffect(() => {
    const refresh = () => void client.invalidateQueries({ queryKey: KEY })
    return listenToJobs({ onJob: ({ shoot_id }) => shoot_id === null && refresh(), onOpen: refresh })
  }, [client])
  return useQuery({ queryKey: KEY, queryFn: () => fetchJson<StorageDetail>('/api/storage') })
}

/** Something done about it; all that is shown is asked for anew. */
function useStorageCommand<T = void>(run: (input: T) => Promise<unknown>) {
  const client = useQueryClient()
  return useMutation({ mutationFn: run, onSettled: () => client.invalidateQueries() })
}

export const useFree = () => useStorageCommand(() => send('/api/storage/derived', 'DELETE'))
export const useCheckFiles = () => useStorageCommand(() => send('/api/storage/check', 'POST'))
export const useBackup = () => useStorageCommand((shoots?: number[]) => send('/api/storage/backups', 'POST', shoots ? { shoots } : {}))
export const useRemoveBackup = () => useStorageCommand((name: string) => send(`/api/storage/backups/${encodeURIComponent(name)}`, 'DELETE'))
export const useRestore = () => useStorageCommand((file: File) => fetchJson('/api/storage/restore', { method: 'PUT', body: file }))
export const useEmptyBin = () => useStorageCommand(() => send('/api/bin', 'DELETE'))
export const usePutBack = () => useStorageCommand(({ kind, id }: Pick<BinItem, 'kind' | 'id'>) => send('/api/bin', 'POST', { kind, id }))
export const useCancelJob = () => useStorageCommand((id: number) => send(`/api/jobs/${id}/cancel`, 'POST'))
