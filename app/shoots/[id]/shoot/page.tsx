'use client'

import { use } from 'react'
import { ShootScreen } from '@/ui/shoot'
import { Themed, WithShoot } from '@/ui/shell'

export default function Page({ params }: { params: Promise<{ id: string }> }) {
  return (
    <WithShoot id={Number(use(params).id)}>
      {(shoot) => (
        <Themed>
          <ShootScreen shoot={shoot} />
        </Themed>
      )}
    </WithShoot>
  )
}
