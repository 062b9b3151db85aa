'use client'

import { useState } from 'react'
import type { RenderDetail } from '@/schemas'
import { message } from '../messages'
import { runJob } from '../api'
import { fetchFile } from '../save'
import styles from './result.module.css'

interface File {
  format: string
  label: string
  /** Whether it is written when it is asked for; the others are there. */
  made?: boolean
  bits?: boolean
}

const FILES: File[] = [
  { format: 'tif', label: 'TIFF', made: true, bits: true },
  { format: 'png', label: 'PNG', made: true, bits: true },
  { format: 'jpg', label: 'JPEG', made: true },
  { format: 'depth', label: 'Depth, 16-bit PNG' },
  { format: 'confidence', label: 'Confidence of the depth, PNG' },
  { format: 'ply', label: 'Relief (PLY)' },
  { format: 'json', label: 'Report (JSON)' },
]

/** The render as files to take away; their names say the settings. */
export function Deliver({ render }: { render: RenderDetail }) {
  const [making, setMaking] = useState<string>()
  const take = async ({ format, made }: File) => {
    const address = `/api/renders/${render.id}/${format}`
    try {
      setMaking(format)
      if (made) await runJob<'deliver'>(address)
      fetchFile(address)
    } catch (error) {
      void message.error((error as Error).message)
    } finally {
      setMaking(undefined)
    }
  }
  const { colour } = render.report
  return (
    <section>
      <h2>Deliver</h2>
      <ul className={styles.deliver}>
        {FILES.map((file) => (
          <li key={file.format}>
            <button type="button" disabled={making !== undefined} onClick={() => void take(file)}>
              {making === file.format ? 'Writing…' : file.label}
              {file.bits && making !== file.format && <span> {render.report.settings.bits} bit</span>}
            </button>
          </li>
        ))}
      </ul>
      {colour && (
        <p className={styles.legend}>
          {colour.profile === null ? 'No colour profile, as the frames have none.' : `Colour profile: ${colour.profile}.`}
          {colour.converted && ' The frames were converted from CMYK.'}
        </p>
      )}
    </section>
  )
}
