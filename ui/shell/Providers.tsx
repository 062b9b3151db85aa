'use client'

import { QueryClientProvider } from '@tanstack/react-query'
import { useState, type ReactNode } from 'react'
import { createQueryClient } from '../api'
import { UnitsProvider } from '../units'

/** Units and server state for every screen. */
export function Providers({ children }: { children: ReactNode }) {
  const [client] = useState(createQueryClient)
  return (
    <QueryClientProvider client={client}>
      <UnitsProvider>{children}</UnitsProvider>
    </QueryClientProvider>
  )
}
