'use client'

import { use } from 'react'
import { PlanScreen } from '@/ui/plan'
import { Themed, WithShoot } from '@/ui/shell'

export default function Page({ params }: { params: Promise<{ id: string }> }) {
  return (
    <WithShoot id={Number(use(params).id)}>
      {(shoot) => (
        <Themed>
          <PlanScreen shoot={shoot} />
        </Themed>
      )}
    </WithShoot>
  )
}
