'use client'

import dynamic from 'next/dynamic'
import Link from 'next/link'
import { useRouter, useSearchParams } from 'next/navigation'
import type { RenderInShort, RunDetail, ShootDetail } from '@/schemas'
import { Shell, ShootHeader } from '../shell'
import { WithRender } from '../WithRender'
import styles from './mend.module.css'

const MendTable = dynamic(() => import('./MendTable').then((part) => part.MendTable), { ssr: false })

/** Mends a render of this shoot: the one that is asked for, else the newest. */
export function MendScreen({ shoot }: { shoot: ShootDetail }) {
  const asked = Number(useSearchParams().get('render'))
  const router = useRouter()
  const all = shoot.runs.flatMap((run) => run.renders.map((render) => ({ run, render })))
  const found = all.find(({ render }) => render.id === asked) ?? newestOf(all)
  return (
    <Shell dark>
      <ShootHeader shoot={shoot} step="mend" />
      {found ? (
        <WithRender key={found.render.id} id={found.render.id}>
          {(render) => (
            <MendTable shoot={shoot} run={found.run} render={render} onRendered={(id) => router.push(`/shoots/${shoot.id}/result?render=${id}`)} />
          )}
        </WithRender>
      ) : (
        <p className={styles.none}>
          There is nothing to mend yet. <Link href={`/shoots/${shoot.id}/shoot`}>Go to the frames</Link>
        </p>
      )}
    </Shell>
  )
}

/** The newest fused picture; of mended ones each is a picture of its own, and is opened by its address. */
function newestOf(all: { run: RunDetail; render: RenderInShort }[]) {
  const fused = all.filter(({ render }) => !render.report.mend)
  return [...(fused.length > 0 ? fused : all)].sort((a, b) => b.render.id - a.render.id)[0]
}
