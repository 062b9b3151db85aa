import type { NamedFrame } from '../namedFrames'
import type { useWhichFrame } from './useWhichFrame'
import styles from './result.module.css'

interface Props {
  found: ReturnType<typeof useWhichFrame>['found']
  frames: NamedFrame[]
  focusText: (position_mm: number) => string
  onShow: (index: number) => void
}

/** The frame that the clicked place is from, and the way to it. */
export function WhichFrame({ found, frames, focusText, onShow }: Props) {
  if (!found) return <p className={styles.which}>Click a place to learn which frame it is from.</p>
  if ('error' in found)
    return (
      <p className={styles.which} role="alert">
        ▲ {found.error}
      </p>
    )
  const frame = frames[found.index]
  return (
    <p className={styles.which} role="status" data-which={found.index}>
      This place is from frame {frame.number}, {frame.file}
      {frame.position_mm !== null && `, ${focusText(frame.position_mm)}`}.
      <button type="button" className={styles.show} onClick={() => onShow(found.index)}>
        Show frame {frame.number}
      </button>
    </p>
  )
}
