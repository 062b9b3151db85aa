'use client'

import { depthCss, rampPlace } from '@/core/ramp'
import { significant } from '@/core/units'
import type { NamedFrame } from '../namedFrames'
import styles from './result.module.css'

interface Props {
  frames: NamedFrame[]
  shares: number[]
  selected?: number
  onSelect: (index: number) => void
}

/** Frames without known positions: in their order, as wide as they are many, as high as what each gives. */
export function OrderStrip({ frames, shares, selected, onSelect }: Props) {
  const most = Math.max(1, ...shares)
  return (
    <div>
      <ol className={styles.order} aria-label="Frames in focus order">
        {shares.map((share, index) => (
          <li key={index}>
            <button
              type="button"
              onClick={() => onSelect(index)}
              aria-pressed={index === selected}
              aria-label={`Frame ${frames[index].number}, ${frames[index].file}, ${significant(share, 2)} %`}
            >
              <i style={{ height: `${8 + (42 * share) / most}px`, background: depthCss(rampPlace(index, shares.length)) }} />
            </button>
          </li>
        ))}
      </ol>
      <p className={styles.orderEnds}>
        <span>first frame</span>
        <span>Positions are unknown. The height shows how much each frame gives.</span>
        <span>last frame</span>
      </p>
    </div>
  )
}
