'use client'

import { use } from 'react'
import { RunCardScreen } from '@/ui/card'
import { Themed, WithShoot } from '@/ui/shell'

export default function Page({ params }: { params: Promise<{ id: string }> }) {
  return (
    <WithShoot id={Number(use(params).id)}>
      {(shoot) => (
        <Themed>
          <RunCardScreen shoot={shoot} />
        </Themed>
      )}
    </WithShoot>
  )
}
