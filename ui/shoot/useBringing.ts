import PQueue from 'p-queue'
import { useRef, useState } from 'react'
import { isRaw, sortBySize, Transfer, withoutPairs } from '@/core/batch'
import { say } from '@/core/words'
import { fetchJson } from '../api'
import { sizeOf } from './sizeOf'

/** While one file is checked the next one travels. */
const AT_ONCE = 3

/** What became of files that were brought together. */
export interface Batch {
  total: number
  taken: number
  refused: string[]
  paused?: boolean
  /** MB a second, and seconds for the rest, once something is known of it. */
  pace?: Transfer['pace']
}

const NONE: Batch = { total: 0, taken: 0, refused: [] }

/** Brings files into a run, some at once; they can be paused. */
export function useBringing() {
  const [batch, setBatch] = useState(NONE)
  const at = useRef<{ queue: PQueue; transfer?: Transfer }>(undefined)

  /** Looks at all files before anything is stored; `into` takes in what may be taken, and answers the run it goes to. */
  const bring = async (files: File[], into: (take: (runId: number) => Promise<number>) => Promise<void>) => {
    // Before they are looked at: a pause that is asked for meanwhile holds.
    const queue = new PQueue({ concurrency: AT_ONCE })
    at.current = { queue }
    setBatch({ ...NONE, total: files.length })
    const { kept, refused } = await looked(files)
    setBatch((before) => ({ ...before, refused }))
    if (kept.length === 0) return
    await into(async (runId) => {
      const transfer = new Transfer(kept.reduce((sum, { size }) => sum + size, 0))
      if (queue.isPaused) transfer.rest()
      at.current = { queue, transfer }
      let taken = 0
      const take = async (file: File) => {
        const sentence = await put(runId, file)
        transfer.pass(file.size)
        if (sentence === undefined) taken++
        setBatch((before) => ({
          ...before,
          pace: transfer.pace,
          taken,
          refused: sentence === undefined ? before.refused : [...before.refused, sentence],
        }))
      }
      await queue.addAll(kept.map((file) => () => take(file)))
      at.current = undefined
      return taken
    })
  }

  /** Files that travel arrive; no further one sets out until it goes on. */
  const pause = (paused: boolean) => {
    const { queue, transfer } = at.current ?? {}
    if (paused) {
      queue?.pause()
      transfer?.rest()
    } else {
      transfer?.goOn()
      queue?.start()
    }
    setBatch((before) => ({ ...before, paused }))
  }
  return { batch, bring, pause }
}

/** Sends one file; the sentence that it was refused with, or undefined. */
async function put(runId: number, file: File): Promise<string | undefined> {
  try {
    await fetchJson(`/api/runs/${runId}/frames?name=${encodeURIComponent(file.name)}`, { method: 'PUT', body: file })
    return undefined
  } catch (error) {
    return (error as Error).message
  }
}

/** Frames of a series are all of one size: the others, and second files of raw frames, stay where they are. */
async function looked(files: File[]): Promise<{ kept: File[]; refused: string[] }> {
  const { kept: frames, pairs } = withoutPairs(files)
  // What stands first in a raw file is its small picture: its own size is found when it is read through.
  const sized = await Promise.all(frames.map(async (file) => ({ file, name: file.name, size: isRaw(file.name) ? null : await sizeOf(file) })))
  const { kept, strays } = sortBySize(sized)
  return {
    kept: kept.map(({ file }) => file),
    refused: [
      ...pairs.map(({ file: { name }, raw }) => say('raw.pair', { name, raw }).text),
      ...strays.map(({ file: { name }, size, usual }) => say('frame.stray', { name, size, usual }).text),
    ],
  }
}
