'use client'

import { use } from 'react'
import { ResultScreen } from '@/ui/result'
import { WithShoot } from '@/ui/shell'

export default function Page({ params }: { params: Promise<{ id: string }> }) {
  return <WithShoot id={Number(use(params).id)}>{(shoot) => <ResultScreen shoot={shoot} />}</WithShoot>
}
