'use client'

import { Skeleton } from 'antd'
import dynamic from 'next/dynamic'
import { useDeferredValue, useState } from 'react'
import { Shell } from '../shell'
import { Entry } from './Entry'
import styles from './logbook.module.css'
import { useLogbook } from './useLogbook'

/** Charts are a large part of the screen's scripts, and come when they are asked for. */
const OverTime = dynamic(() => import('./OverTime').then((part) => part.OverTime), { ssr: false, loading: () => <Skeleton active /> })

const STARS = [1, 2, 3, 4, 5]

/** Every run with what was planned, what came of it, and what one noted; to search, to chart and to take away. */
export function LogbookScreen() {
  const [search, setSearch] = useState('')
  const [stars, setStars] = useState(0)
  const [charts, setCharts] = useState(false)
  const words = useDeferredValue(search)
  const { entries, count, more, loading, error } = useLogbook({ words, stars })
  const asked = words !== '' || stars > 0
  return (
    <Shell>
      <div className={styles.head}>
        <div>
          <h1>Logbook</h1>
          <p className={styles.quiet}>Every run enters by itself: what was planned, what was taken, and what was found.</p>
        </div>
        <div className={styles.away}>
          <button type="button" aria-pressed={charts} onClick={() => setCharts(!charts)}>
            Over time
          </button>
          <a href="/api/logbook?as=csv">CSV</a>
          <a href="/api/logbook?as=json">JSON</a>
        </div>
      </div>
      {charts && <OverTime />}
      {(count > 0 || asked) && (
        <div className={styles.find} role="search">
          <input
            type="search"
            aria-label="Find a run"
            placeholder="Title, note, tag, body or lens"
            value={search}
            onChange={(event) => setSearch(event.target.value)}
          />
          <select aria-label="Stars" value={stars} onChange={(event) => setStars(Number(event.target.value))}>
            <option value={0}>all runs</option>
            {STARS.map((least) => (
              <option key={least} value={least}>
                {least === 1 ? '1 star or more' : `${least} stars${least < 5 ? ' or more' : ''}`}
              </option>
            ))}
          </select>
          <span role="status">{count === 1 ? '1 run' : `${count} runs`}</span>
        </div>
      )}
      {error && <p role="alert">▲ {error.message}</p>}
      {loading && <p role="status">Opening the logbook…</p>}
      {!loading && !error && count === 0 && (
        <p className={styles.quiet}>
          {asked ? 'No run fits. Search for less.' : 'No runs yet. Shoot a series or bring frames, and it is noted here.'}
        </p>
      )}
      <ol className={styles.entries}>
        {entries.map((entry) => (
          <li key={entry.run}>
            <Entry entry={entry} />
          </li>
        ))}
      </ol>
      {more && (
        <button type="button" className={styles.more} onClick={more}>
          Show more
        </button>
      )}
    </Shell>
  )
}
