'use client'

import { use } from 'react'
import { FieldScreen } from '@/ui/field'
import { WithShoot } from '@/ui/shell'

export default function Page({ params }: { params: Promise<{ id: string }> }) {
  return <WithShoot id={Number(use(params).id)}>{(shoot) => <FieldScreen shoot={shoot} />}</WithShoot>
}
