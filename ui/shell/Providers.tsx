'use client'

import { AntdRegistry } from '@ant-design/nextjs-registry'
import { QueryClientProvider } from '@tanstack/react-query'
import { App, ConfigProvider } from 'antd'
import { useState, type ReactNode } from 'react'
import { createQueryClient } from '../api'
import { theme } from '../theme'
import { UnitsProvider } from '../units'

/** Theme, messages and server state for every screen. */
export function Providers({ children }: { children: ReactNode }) {
  const [client] = useState(createQueryClient)
  return (
    <AntdRegistry>
      <ConfigProvider theme={theme}>
        <QueryClientProvider client={client}>
          <UnitsProvider>
            <App>{children}</App>
          </UnitsProvider>
        </QueryClientProvider>
      </ConfigProvider>
    </AntdRegistry>
  )
}
