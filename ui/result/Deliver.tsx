'use client'

import type { RenderDetail } from '@/schemas'
import styles from './result.module.css'

const FILES = [
  { format: 'tif', label: 'TIFF', bits: true },
  { format: 'png', label: 'PNG', bits: true },
  { format: 'jpg', label: 'JPEG', bits: false },
  { format: 'depth', label: 'Depth, 16-bit PNG', bits: false },
  { format: 'confidence', label: 'Depth confidence, PNG', bits: false },
  { format: 'ply', label: 'Relief (PLY)', bits: false },
  { format: 'json', label: 'Report (JSON)', bits: false },
]

/** The render as files to take away; their names say the settings. */
export function Deliver({ render }: { render: RenderDetail }) {
  return (
    <section>
      <h2>Deliver</h2>
      <ul className={styles.deliver}>
        {FILES.map(({ format, label, bits }) => (
          <li key={format}>
            <a href={`/api/renders/${render.id}/${format}`} download>
              {label}
              {bits && <span> {render.report.settings.bits} bit</span>}
            </a>
          </li>
        ))}
      </ul>
    </section>
  )
}
