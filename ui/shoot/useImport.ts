import { useQuery } from '@tanstack/react-query'
import type { ImportDetail } from '@/schemas'
import { fetchJson } from '../api'

const ASK_AGAIN_ms = 700

export const importKey = (shootId: number) => ['import', shootId]

/** The folder that is being imported into a shoot, or was since the application began; null where there was none. */
export function useImport(shootId: number): ImportDetail | null | undefined {
  const { data } = useQuery({
    queryKey: importKey(shootId),
    queryFn: () => fetchJson<{ import: ImportDetail | null }>(`/api/shoots/${shootId}/import`),
    refetchInterval: ({ state }) => (state.data?.import && !state.data.import.ended ? ASK_AGAIN_ms : false),
  })
  return data?.import
}
