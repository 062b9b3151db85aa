import { create } from 'zustand'
import { persist } from 'zustand/middleware'

/** What helps where eyes and light are elsewhere; kept on the device that it was chosen on. */
interface Aids {
  /** Says and sounds what comes next. */
  aloud: boolean
  /** Only red light leaves the screen: eyes that are used to the dark stay so. */
  red: boolean
  change(aids: Partial<Pick<Aids, 'aloud' | 'red'>>): void
}

export const useAids = create<Aids>()(
  persist((set) => ({ aloud: false, red: false, change: (aids) => set(aids) }), { name: 'nitidus-field-aids', skipHydration: true }),
)
