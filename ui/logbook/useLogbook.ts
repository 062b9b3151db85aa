import { keepPreviousData, useInfiniteQuery, useMutation, useQueryClient } from '@tanstack/react-query'
import type { LogPage, RunNotes } from '@/schemas'
import { fetchJson, send } from '../api'

/** The runs that fit, page after page. */
export function useLogbook({ words, stars }: { words: string; stars: number }) {
  const { data, error, isLoading, hasNextPage, fetchNextPage } = useInfiniteQuery({
    queryKey: ['logbook', words, stars],
    queryFn: ({ pageParam }) => fetchJson<LogPage>(`/api/logbook?${new URLSearchParams({ words, stars: String(stars), from: String(pageParam) })}`),
    initialPageParam: 0,
    getNextPageParam: (_, pages) => {
      const shown = pages.reduce((sum, { entries }) => sum + entries.length, 0)
      return shown < pages[0].count ? shown : undefined
    },
    // What was found stays while the next search is under way.
    placeholderData: keepPreviousData,
  })
  return {
    entries: data?.pages.flatMap(({ entries }) => entries) ?? [],
    count: data?.pages[0].count ?? 0,
    more: hasNextPage ? () => void fetchNextPage() : undefined,
    loading: isLoading,
    error,
  }
}

/** Keeps what is noted of a run. */
export function useNotes(run: number) {
  const client = useQueryClient()
  return useMutation({
    mutationFn: (notes: Partial<RunNotes>) => send(`/api/runs/${run}/log`, 'PUT', notes),
    onSettled: () => client.invalidateQueries({ queryKey: ['logbook'] }),
  })
}
