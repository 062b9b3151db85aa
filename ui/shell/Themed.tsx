'use client'

import { AntdRegistry } from '@ant-design/nextjs-registry'
import { ConfigProvider } from 'antd'
import { useSyncExternalStore, type ReactNode } from 'react'
import { theme } from '../theme'

/** The theme of the component library, around screens and parts that use it. Others (the list, the field) do not load it. */
export function Themed({ children }: { children: ReactNode }) {
  const still = useSyncExternalStore(onMotionChange, wantsStillness, () => false)
  return (
    <AntdRegistry>
      {/* Under a parent without movement the inner provider keeps its shape when movement is switched; else every screen
          would be made anew just after it came, and a click or a word typed meanwhile would be lost. */}
      <ConfigProvider theme={STILL}>
        <ConfigProvider theme={still ? STILL : MOVING}>{children}</ConfigProvider>
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
