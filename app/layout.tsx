import '@fontsource-variable/source-sans-3/wght.css'
import './globals.css'
import type { Metadata } from 'next'
import type { ReactNode } from 'react'
import { ServiceWorker } from '@/ui/field/ServiceWorker'
import { Providers } from '@/ui/shell'

export const metadata: Metadata = { title: 'Nitidus', description: 'Plan, shoot, check, fuse and deliver focus series.' }

/** Every page is made when it is asked for: its scripts carry a number of their own that the browser checks. */
export const dynamic = 'force-dynamic'

export default function Layout({ children }: { children: ReactNode }) {
  return (
    <html lang="en">
      <body>
        <Providers>{children}</Providers>
        <ServiceWorker />
      </body>
    </html>
  )
}
