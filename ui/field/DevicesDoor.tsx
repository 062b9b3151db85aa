'use client'

import dynamic from 'next/dynamic'
import { useState } from 'react'
import type { DevicesProps } from './DevicesPanel'
import styles from './field.module.css'

const DevicesPanel = dynamic(() => import('./ThemedDevices').then((part) => part.ThemedDevices), { ssr: false })

/** The way to the simulated devices. They are for the desk: in the field nothing of them is loaded. */
export function DevicesDoor(props: DevicesProps) {
  const [open, setOpen] = useState(props.devices.on)
  if (open) return <DevicesPanel {...props} />
  return (
    <section className={styles.devices} aria-label="Simulated devices">
      <h2>No camera at hand?</h2>
      <button type="button" className={styles.door} onClick={() => setOpen(true)}>
        Use the simulated camera
      </button>
    </section>
  )
}
