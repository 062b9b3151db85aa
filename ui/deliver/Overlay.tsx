'use client'

import { Layer, Stage } from 'react-konva'
import type { Step } from '@/core/finish'
import { EDITORS, type Editor, type OverlayProps } from './editors'
import styles from './deliver.module.css'

/** What the open step lays over the picture. */
export function Overlay({ size, ...props }: OverlayProps<Step['do']> & { size: { width: number; height: number } }) {
  const { Overlay: Part } = EDITORS[props.step.do] as unknown as Editor<Step['do']>
  if (!Part) return null
  return (
    <Stage width={size.width} height={size.height} className={styles.overlay}>
      <Layer>
        <Part {...props} />
      </Layer>
    </Stage>
  )
}
