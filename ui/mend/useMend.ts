import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useCallback, useMemo, useRef, useState } from 'react'
import { standingEdits, type MendBase, type MendEdit } from '@/core/mend'
import type { MendDetail } from '@/schemas'
import { fetchJson, send } from '../api'

/** The mends of a render, and the edits of the one that is chosen, kept by the application one by one; a mend begins with its first edit. */
export function useMend(renderId: number) {
  const client = useQueryClient()
  const key = useMemo(() => ['mends', renderId], [renderId])
  const list = useMemo(() => ({ queryKey: key, queryFn: () => fetchJson<MendDetail[]>(`/api/renders/${renderId}/mends`) }), [key, renderId])
  const { data: mends } = useQuery(list)
  const [error, setError] = useState('')
  const [chosen, setChosen] = useState<number>()
  const beginning = useRef<Promise<number>>(undefined)
  const mendIn = useCallback((all?: MendDetail[]) => all?.find(({ id }) => id === chosen) ?? all?.[0], [chosen])
  const mend = mendIn(mends)
  const edits = useMemo(() => mend?.edits ?? [], [mend])
  const standing = useMemo(() => standingEdits(edits), [edits])

  const change = useCallback(
    (id: number, to: (before: MendDetail) => MendDetail) =>
      client.setQueryData<MendDetail[]>(key, (before = []) => before.map((each) => (each.id === id ? to(each) : each))),
    [client, key],
  )
  const failed = useCallback(
    async (cause: unknown) => {
      setError((cause as Error).message)
      await client.invalidateQueries({ queryKey: key })
    },
    [client, key],
  )
  /** Begins another mend of this render, beside those there are. */
  const begin = useCallback(
    async (base: MendBase) => {
      const title = base === 'fused' ? `Mend ${(mends?.length ?? 0) + 1}` : `Composed ${(mends?.length ?? 0) + 1}`
      try {
        const { id } = await send<{ id: number }>(`/api/renders/${renderId}/mends`, 'POST', { title, base })
        beginning.current = Promise.resolve(id)
        await client.invalidateQueries({ queryKey: key })
        setChosen(id)
        setError('')
        return id
      } catch (cause) {
        await failed(cause)
      }
    },
    [client, key, mends?.length, renderId, failed],
  )

  const add = useCallback(
    async (edit: MendEdit) => {
      try {
        // A stroke that comes before the list of mends belongs to the one that the list will show; only where there is none, one begins.
        const into = mend ?? mendIn(await client.ensureQueryData(list))
        // Seen at once; the application's answer follows, with what another tab added.
        if (into) change(into.id, (before) => ({ ...before, edits: [...before.edits, edit] }))
        const id =
          into?.id ??
          (await (beginning.current ??= send<{ id: number }>(`/api/renders/${renderId}/mends`, 'POST', { title: 'Mend 1', base: 'fused' }).then(
            (made) => made.id,
          )))
        const kept = await send<MendDetail>(`/api/mends/${id}/edits`, 'POST', { edits: [edit] })
        client.setQueryData<MendDetail[]>(key, (before = []) =>
          before.some((each) => each.id === id) ? before.map((each) => (each.id === id ? withMine(kept, each) : each)) : [kept, ...before],
        )
        setError('')
      } catch (cause) {
        beginning.current = undefined
        await failed(cause)
      }
    },
    [client, key, list, mend, mendIn, renderId, change, failed],
  )

  /** Lays what is painted on anew. */
  const rebase = useCallback(
    async (base: MendBase) => {
      if (!mend) return
      change(mend.id, (before) => ({ ...before, base }))
      await send<MendDetail>(`/api/mends/${mend.id}`, 'PUT', { base }).catch(failed)
    },
    [mend, change, failed],
  )

  const takeBack = useCallback((id: string) => add({ id: newEditId(), kind: 'undo', of: id }), [add])
  const last = lastDone(edits)
  const undone = lastUndone(edits)
  return {
    mends: mends ?? [],
    mend,
    edits,
    standing,
    error,
    choose: setChosen,
    begin,
    add,
    rebase,
    takeBack,
    undo: last === undefined ? undefined : () => void takeBack(last),
    redo: undone === undefined ? undefined : () => void takeBack(undone),
  }
}

/** What the application keeps, and what was added here meanwhile and is still on its way. */
function withMine(kept: MendDetail, mine: MendDetail | undefined): MendDetail {
  const known = new Set(kept.edits.map(({ id }) => id))
  return { ...kept, edits: [...kept.edits, ...(mine?.edits.filter(({ id }) => !known.has(id)) ?? [])] }
}

/** The stroke that undoing takes back: the newest that stands. */
export function lastDone(edits: MendEdit[]): string | undefined {
  return standingEdits(edits).at(-1)?.id
}

/** The undo that redoing takes back: one that stands, with nothing painted since. */
export function lastUndone(edits: MendEdit[]): string | undefined {
  const reversed = new Set<string>()
  for (const edit of [...edits].reverse()) {
    if (reversed.has(edit.id)) continue
    if (edit.kind !== 'undo') return undefined
    const of = edits.find(({ id }) => id === edit.of)
    // An undo of an undo was a redo: what it brought back is not to be brought back again.
    if (of?.kind !== 'undo') return edit.id
    reversed.add(edit.of)
  }
  return undefined
}

/** A name that no other tab gives. */
export function newEditId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(12))
  return [...bytes].map((byte) => byte.toString(16).padStart(2, '0')).join('')
}
