'use client'

import dynamic from 'next/dynamic'
import Link from 'next/link'
import { useSearchParams } from 'next/navigation'
import type { ShootDetail } from '@/schemas'
import { Shell, ShootHeader } from '../shell'
import { TakeAlong } from './TakeAlong'
import { WithRender } from '../WithRender'
import styles from './deliver.module.css'

const DeliverTable = dynamic(() => import('./DeliverTable').then((part) => part.DeliverTable), { ssr: false })
const ReliefTable = dynamic(() => import('../relief').then((part) => part.ReliefTable), { ssr: false })

/** Finishes a render of this shoot and hands it over: the one that is asked for, else the newest, mended or not. */
export function DeliverScreen({ shoot }: { shoot: ShootDetail }) {
  const search = useSearchParams()
  const asked = Number(search.get('render'))
  const relief = search.get('view') === 'relief'
  const all = shoot.runs.flatMap((run) => run.renders.map((render) => ({ run, render })))
  const found = all.find(({ render }) => render.id === asked) ?? all.toSorted((a, b) => b.render.id - a.render.id)[0]
  return (
    <Shell dark>
      <ShootHeader shoot={shoot} step="deliver" />
      {found && <Views shootId={shoot.id} renderId={found.render.id} relief={relief} />}
      {found ? (
        <WithRender key={found.render.id} id={found.render.id}>
          {(render) =>
            relief ? (
              <ReliefTable render={render}>
                <TakeAlong
                  renderId={render.id}
                  runId={found.run.id}
                  title="Take the depth along"
                  kinds={['relief', 'rocking', 'focusRun', 'stereo', 'crossed']}
                  kept={['depth', 'confidence']}
                />
              </ReliefTable>
            ) : (
              <DeliverTable shootId={shoot.id} run={found.run} render={render} />
            )
          }
        </WithRender>
      ) : (
        <p className={styles.none}>
          There is nothing to deliver yet. <Link href={`/shoots/${shoot.id}/shoot`}>Go to the frames</Link>
        </p>
      )}
    </Shell>
  )
}

/** The picture, or the depth of it. */
function Views({ shootId, renderId, relief }: { shootId: number; renderId: number; relief: boolean }) {
  const address = `/shoots/${shootId}/deliver?render=${renderId}`
  return (
    <nav aria-label="What is delivered" className={styles.views}>
      <Link href={address} aria-current={relief ? undefined : 'page'}>
        The picture
      </Link>
      <Link href={`${address}&view=relief`} aria-current={relief ? 'page' : undefined}>
        The relief
      </Link>
    </nav>
  )
}
