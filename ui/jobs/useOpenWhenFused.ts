import { useRouter } from 'next/navigation'
import { useEffect, useRef } from 'react'
import type { JobDetail, JobResults, ShootDetail } from '@/schemas'
import { isOn } from './mainJob'

/** Opens the finished picture when a fusing ends that this screen has seen running. */
export function useOpenWhenFused({ id, jobs }: Pick<ShootDetail, 'id' | 'jobs'>): void {
  const router = useRouter()
  const awaited = useRef(new Set<number>())
  useEffect(() => {
    for (const job of jobs) {
      if (job.kind !== 'fuse') continue
      if (isOn(job)) awaited.current.add(job.id)
      else if (awaited.current.delete(job.id) && job.state === 'done') router.push(resultAddress(id, job))
    }
  }, [id, jobs, router])
}

function resultAddress(shootId: number, { result }: JobDetail): string {
  return `/shoots/${shootId}/result?render=${(result as JobResults['fuse']).render}`
}
