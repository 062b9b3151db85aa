'use client'

import { createContext, useContext, useMemo, useState, useSyncExternalStore, type ReactNode } from 'react'
import { lengthText, placeText, type UnitSystem } from '@/core/units'

interface Units {
  system: UnitSystem
  choose: (system: UnitSystem) => void
  /** A length, and a place on an axis, in the units that are switched on. */
  length: (mm: number) => string
  place: (mm: number) => string
}

const Context = createContext<Units | undefined>(undefined)

const KEY = 'nitidus.units'
const nothing = () => () => undefined

/** The one place where metric and inches are switched; the browser remembers it. */
export function UnitsProvider({ children }: { children: ReactNode }) {
  const stored = useSyncExternalStore(
    nothing,
    () => localStorage.getItem(KEY),
    () => null,
  )
  const [chosen, setChosen] = useState<UnitSystem>()
  const system: UnitSystem = chosen ?? (stored === 'inches' ? 'inches' : 'metric')
  const units = useMemo<Units>(
    () => ({
      system,
      choose: (next) => {
        localStorage.setItem(KEY, next)
        setChosen(next)
      },
      length: (mm) => lengthText(mm, system),
      place: (mm) => placeText(mm, system),
    }),
    [system],
  )
  return <Context value={units}>{children}</Context>
}

export function useUnits(): Units {
  const units = useContext(Context)
  if (!units) throw new Error('useUnits wants a UnitsProvider above it.')
  return units
}
