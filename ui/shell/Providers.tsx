'use client'

import { AntdRegistry } from '@ant-design/nextjs-registry'
import { QueryClientProvider } from '@tanstack/react-query'
import { App, ConfigProvider } from 'antd'
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
      <ConfigProvider theme={still ? STILL : theme}>
        <QueryClientProvider client={client}>
          <UnitsProvider>
            <App>{children}</App>
          </UnitsProvider>
        </QueryClientProvider>
      </ConfigProvider>
    </AntdRegistry>
  )
}

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
