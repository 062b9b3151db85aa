'use client'

import { use, type ComponentType } from 'react'
import type { ShootDetail } from '@/schemas'
import { Themed } from './Themed'
import { WithShoot } from './WithShoot'

/** A page about one shoot: loads it by the number in the address, and shows a screen of it. */
export function shootPage(Screen: ComponentType<{ shoot: ShootDetail }>) {
  return function ShootPage({ params }: { params: Promise<{ id: string }> }) {
    return (
      <WithShoot id={Number(use(params).id)}>
        {(shoot) => (
          <Themed>
            <Screen shoot={shoot} />
          </Themed>
        )}
      </WithShoot>
    )
  }
}
