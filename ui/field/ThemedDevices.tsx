'use client'

import { Themed } from '../shell/Themed'
import { DevicesPanel, type DevicesProps } from './DevicesPanel'

export function ThemedDevices(props: DevicesProps) {
  return (
    <Themed>
      <DevicesPanel {...props} />
    </Themed>
  )
}
