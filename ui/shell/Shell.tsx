'use client'

import Link from 'next/link'
import type { ReactNode } from 'react'
import { UnitSwitch } from '../units'
import styles from './shell.module.css'

/** The frame of every screen: the name, the way home, and the screen. `dark` where pictures are judged. */
export function Shell({ children, dark }: { children: ReactNode; dark?: boolean }) {
  return (
    <div className={dark ? styles.table : styles.paper}>
      <a href="#content" className={styles.skip}>
        Skip to the content
      </a>
      <header className={styles.bar}>
        <Link href="/" className={styles.name}>
          Nitidus
        </Link>
        <nav>
          <Link href="/">Shoots</Link>
          <Link href="/shoots/new">Plan a shoot</Link>
          <Link href="/logbook">Logbook</Link>
          <Link href="/practice">Practice</Link>
          <Link href="/kit">Kit</Link>
          <Link href="/storage">Storage</Link>
          <Link href="/phone" className={styles.phone}>
            Phone
          </Link>
        </nav>
        <div className={styles.units}>
          <UnitSwitch />
        </div>
      </header>
      <main id="content" tabIndex={-1} className={styles.main}>
        {children}
      </main>
    </div>
  )
}
