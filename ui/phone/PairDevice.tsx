'use client'

import { Button } from 'antd'
import { useRef } from 'react'
import { clockText } from '@/core/units'
import type { PairedDevice, PairingOffer } from '@/schemas'
import { message } from '../messages'
import { useOffer } from './usePairing'
import styles from './phone.module.css'

/** A code to type or scan, until a device has used it. */
export function PairDevice({ devices }: { devices: PairedDevice[] }) {
  const offer = useOffer()
  const before = useRef<string[]>([])
  const begin = () => {
    before.current = devices.map(({ id }) => id)
    offer.mutate(undefined, { onError: (error) => message.error(error.message) })
  }
  const paired = offer.data && devices.find(({ id }) => !before.current.includes(id))
  return (
    <section aria-labelledby="pair">
      <h2 id="pair">Pair a device</h2>
      <div role="status">
        {paired && <p className={styles.done}>{paired.name} is paired.</p>}
        {offer.data && !paired && <Code offer={offer.data} />}
      </div>
      {!offer.data && <p className={styles.quiet}>The device gets a code from here. What is not paired sees nothing of your shoots.</p>}
      <Button type={offer.data && !paired ? 'default' : 'primary'} loading={offer.isPending} onClick={begin}>
        {!offer.data ? 'Pair a device' : paired ? 'Pair another device' : 'Show a new code'}
      </Button>
    </section>
  )
}

function Code({ offer: { code, until, addresses, qr } }: { offer: PairingOffer }) {
  return (
    <div className={styles.offer}>
      {qr && <img src={`data:image/svg+xml,${encodeURIComponent(qr)}`} alt="The address with the code, to scan" width={190} height={190} />}
      <div>
        <p>Scan it with the device’s camera, or open</p>
        {addresses.map((address) => (
          <p key={address} className={styles.address}>
            {address}
          </p>
        ))}
        <p>there and type</p>
        <p className={styles.code}>
          {code.slice(0, 4)} {code.slice(4)}
        </p>
        <p className={styles.quiet}>
          Good once, until {clockText(until)}. The device warns that it does not know this computer yet: go on all the same.
        </p>
      </div>
    </div>
  )
}
