'use client'

import Link from 'next/link'
import { useDeferredValue, useState } from 'react'
import { useShoots } from '../api'
import { Offer } from '../guide'
import { Shell } from '../shell'
import { found, ORDERS, STATES, type Order } from './find'
import { ShootCard } from './ShootCard'
import styles from './home.module.css'

/** So many are shown before one asks for more. */
const PAGE = 24
/** Few enough to look at all of them. */
const FEW = 6

/** Every shoot with its picture, subject, state and date; to search and to sort. */
export function HomeScreen() {
  const { data: shoots, error, isLoading } = useShoots()
  const [search, setSearch] = useState('')
  const [order, setOrder] = useState<Order>('changed')
  const [state, setState] = useState('')
  const [shown, setShown] = useState(PAGE)
  const words = useDeferredValue(search)
  const list = shoots ? found(shoots, { words, state, order }) : []
  const many = (shoots?.length ?? 0) > FEW
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
      {shoots?.length === 0 && (
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
          <select aria-label="State" value={state} onChange={(event) => setState(event.target.value)}>
            <option value="">all states</option>
            {Object.entries(STATES).map(([value, { label }]) => (
              <option key={value} value={value}>
                {label}
              </option>
            ))}
          </select>
          <select aria-label="Order" value={order} onChange={(event) => setOrder(event.target.value as Order)}>
            {Object.entries(ORDERS).map(([value, { label }]) => (
              <option key={value} value={value}>
                {label}
              </option>
            ))}
          </select>
          <span role="status">
            {list.length} of {shoots!.length}
          </span>
        </div>
      )}
      <ul className={styles.list}>
        {list.slice(0, shown).map((shoot) => (
          <li key={shoot.id}>
            <ShootCard shoot={shoot} />
          </li>
        ))}
      </ul>
      {list.length > shown && (
        <button type="button" className={styles.plain} onClick={() => setShown(shown + PAGE)}>
          Show {Math.min(PAGE, list.length - shown)} more
        </button>
      )}
    </Shell>
  )
}
