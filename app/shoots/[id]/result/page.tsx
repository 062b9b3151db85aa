'use client'

import { use } from 'react'
import { ResultScreen } from '@/ui/result'
import { Themed, WithShoot } from '@/ui/shell'

export default function Page({ params }: { params: Promise<{ id: string }> }) {
  return (
    <WithShoot id={Number(use(params).id)}>
      {(shoot) => (
        <Themed>
          <ResultScreen shoot={shoot} />
        </Themed>
      )}
    </WithShoot>
  )
}
