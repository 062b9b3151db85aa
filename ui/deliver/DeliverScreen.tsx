'use client'

import dynamic from 'next/dynamic'
import Link from 'next/link'
import { useSearchParams } from 'next/navigation'
import type { ShootDetail } from '@/schemas'
import { Shell, ShootHeader } from '../shell'
import styles from './deliver.module.css'

const DeliverTable = dynamic(() => import('./DeliverTable').then((part) => part.DeliverTable), { ssr: false })

/** Finishes a render of this shoot and hands it over: the one that is asked for, else the newest, mended or not. */
export function DeliverScreen({ shoot }: { shoot: ShootDetail }) {
  const asked = Number(useSearchParams().get('render'))
  const all = shoot.runs.flatMap((run) => run.renders.map((render) => ({ run, render })))
  const found = all.find(({ render }) => render.id === asked) ?? all.toSorted((a, b) => b.render.id - a.render.id)[0]
  return (
    <Shell dark>
      <ShootHeader shoot={shoot} step="deliver" />
      {found ? (
        <DeliverTable key={found.render.id} shoot={shoot} {...found} />
      ) : (
        <p className={styles.none}>
          There is nothing to deliver yet. <Link href={`/shoots/${shoot.id}/shoot`}>Go to the frames</Link>
        </p>
      )}
    </Shell>
  )
}
