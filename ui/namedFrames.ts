import type { FrameDetail, RenderDetail, RunDetail, ShootDetail } from '@/schemas'
import { frameNumbers } from './frameNumbers'

/** A frame of a render as the screen calls it. */
export interface NamedFrame {
  number: number
  file: string
  position_mm: number | null
  /** Absent where it was deleted. */
  frame?: FrameDetail
}

/**
 * The frames that a render was made of, in its order. They are looked for in all runs, as some may have been split off since;
 * reports of older renders know them by name only. A deleted frame has no number any more; its place is used instead.
 */
export function namedFrames({ runs }: Pick<ShootDetail, 'runs'>, run: RunDetail, { report }: RenderDetail): NamedFrame[] {
  const all = new Map(runs.flatMap(({ frames }) => frames).map((frame) => [frame.uid, frame]))
  const named = new Map([...runs.flatMap(({ frames }) => frames), ...run.frames].map((frame) => [frame.name, frame]))
  const { byId, byName } = frameNumbers(run)
  return report.frames.map(({ uid, file }, k) => {
    const frame = uid === undefined ? named.get(file) : all.get(uid)
    const number = (frame && byId.get(frame.id)) ?? byName.get(file) ?? k + 1
    return { number, file, position_mm: frame?.position_mm ?? null, frame }
  })
}
