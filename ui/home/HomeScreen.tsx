'use client'

import Link from 'next/link'
import { useDeferredValue, useState } from 'react'
import type { ShootOrder, ShootState } from '@/schemas'
import { useShoots } from '../api'
import { Offer } from '../guide'
import { Shell } from '../shell'
import { ORDERS, STATES } from './find'
import { ShootCard } from './ShootCard'
import styles from './home.module.css'

/** Few enough to look at all of them. */
const FEW = 6

/** Every shoot with its picture, subject, state and date; to search and to sort. */
export function HomeScreen() {
  const [search, setSearch] = useState('')
  const [order, setOrder] = useState<ShootOrder>('changed')
  const [state, setState] = useState<ShootState | ''>('')
  const words = useDeferredValue(search).trim()
  const { data, error, isLoading, isPlaceholderData, hasNextPage, isFetchingNextPage, fetchNextPage } = useShoots({ words, state, order })
  const list = data?.pages.flatMap(({ shoots }) => shoots) ?? []
  const { found, all } = data?.pages[0] ?? { found: 0, all: undefined }
  const many = all !== undefined && all > FEW
  return (
    <Shell>
      <div className={styles.head}>
        <h1>Shoots</h1>
        <div className={styles.begin}>
          <Link href="/shoots/frames" className={styles.plain}>
            Bring frames
          </Link>
          <Link href="/shoots/new" className={styles.primary}>
            Plan a shoot
          </Link>
        </div>
      </div>
      <Offer />
      {error && <p role="alert">▲ {error.message}</p>}
      {isLoading && <p role="status">Loading the shoots…</p>}
      {all === 0 && (
        <p className={styles.empty}>No shoots yet. Plan the first one: give its depth, a magnification and an aperture. Or bring frames you have.</p>
      )}
      {many && (
        <div className={styles.find} role="search">
          <input
            type="search"
            aria-label="Find a shoot"
            placeholder="Title or notes"
            value={search}
            onChange={(event) => setSearch(event.target.value)}
          />
          <select aria-label="State" value={state} onChange={(event) => setState(event.target.value as ShootState | '')}>
            <option value="">all states</option>
            {Object.entries(STATES).map(([value, { label }]) => (
              <option key={value} value={value}>
                {label}
              </option>
            ))}
          </select>
          <select aria-label="Order" value={order} onChange={(event) => setOrder(event.target.value as ShootOrder)}>
            {Object.entries(ORDERS).map(([value, label]) => (
              <option key={value} value={value}>
                {label}
              </option>
            ))}
          </select>
          <span role="status">
            {found} of {all}
          </span>
        </div>
      )}
      {/* What was found before stands there until the answer comes, and is not to be pressed. */}
      <ul className={styles.list} inert={isPlaceholderData} aria-busy={isPlaceholderData}>
        {list.map((shoot) => (
          <li key={shoot.id}>
            <ShootCard shoot={shoot} />
          </li>
        ))}
      </ul>
      {hasNextPage && (
        <button type="button" className={styles.plain} disabled={isFetchingNextPage} onClick={() => void fetchNextPage()}>
          Show more
        </button>
      )}
    </Shell>
  )
}
