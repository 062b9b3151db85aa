'use client'

import { AntdRegistry } from '@ant-design/nextjs-registry'
import { QueryClientProvider } from '@tanstack/react-query'
import { ConfigProvider } from 'antd'
import { useState, useSyncExternalStore, type ReactNode } from 'react'
import { createQueryClient } from '../api'
import { theme } from '../theme'
import { UnitsProvider } from '../units'

/** Theme, messages and server state for every screen. */
export function Providers({ children }: { children: ReactNode }) {
  const [client] = useState(createQueryClient)
  const still = useSyncExternalStore(onMotionChange, wantsStillness, () => false)
  return (
    <AntdRegistry>
      {/* Under a parent without movement the inner provider keeps its shape when movement is switched; else every screen
          would be made anew just after it came, and a click or a word typed meanwhile would be lost. */}
      <ConfigProvider theme={STILL}>
        <ConfigProvider theme={still ? STILL : MOVING}>
          <QueryClientProvider client={client}>
            <UnitsProvider>{children}</UnitsProvider>
          </QueryClientProvider>
        </ConfigProvider>
      </ConfigProvider>
    </AntdRegistry>
  )
}

const MOVING = { ...theme, token: { ...theme.token, motion: true } }
const STILL = { ...theme, token: { ...theme.token, motion: false } }
const QUERY = '(prefers-reduced-motion: reduce)'

/** Whether the reader has asked the system for less movement. */
function wantsStillness(): boolean {
  return window.matchMedia(QUERY).matches
}

function onMotionChange(listener: () => void): () => void {
  const media = window.matchMedia(QUERY)
  media.addEventListener('change', listener)
  return () => media.removeEventListener('change', listener)
}
