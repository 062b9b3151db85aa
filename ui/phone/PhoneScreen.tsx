'use client'

import { Alert, Button, Popconfirm, Skeleton } from 'antd'
import { momentText } from '@/core/units'
import type { PairedDevice } from '@/schemas'
import { message } from '../messages'
import { Shell } from '../shell'
import { PairDevice } from './PairDevice'
import { TrustSteps } from './TrustSteps'
import { usePairing, useRevoke } from './usePairing'
import styles from './phone.module.css'

/** Lets other devices in, shows which are, and tells how the run card works on them without a connection. */
export function PhoneScreen() {
  const { data, error } = usePairing()
  return (
    <Shell>
      <h1 className={styles.title}>Phone</h1>
      <p className={styles.lead}>Take the run card to the subject: plans, live view and frames on a phone or tablet in the same network.</p>
      {error && <Alert type="error" title={error.message} />}
      {!data && !error && <Skeleton active />}
      {data && !data.on && <HowToStart />}
      {data?.on && (
        <div className={styles.columns}>
          <PairDevice devices={data.devices} />
          <Devices devices={data.devices} />
        </div>
      )}
      {data && <TrustSteps />}
    </Shell>
  )
}

function HowToStart() {
  return (
    <section aria-label="Let other devices in" className={styles.off}>
      <p>Nitidus answers this computer only. To let paired devices in, stop it and start it with</p>
      <pre>npm start -- --lan</pre>
    </section>
  )
}

function Devices({ devices }: { devices: PairedDevice[] }) {
  const revoke = useRevoke()
  return (
    <section aria-labelledby="paired">
      <h2 id="paired">Paired devices</h2>
      {devices.length === 0 && <p className={styles.quiet}>None yet.</p>}
      <ul className={styles.devices}>
        {devices.map(({ id, name, paired_at, seen_at }) => (
          <li key={id}>
            <div>
              <strong>{name}</strong>
              <span>
                paired {momentText(paired_at)}, last seen {momentText(seen_at)}
              </span>
            </div>
            <Popconfirm
              title={`Remove ${name}?`}
              description="It is let in again only after it is paired again."
              okText="Remove"
              onConfirm={() => revoke.mutate(id, { onError: (problem) => message.error(problem.message) })}
            >
              <Button aria-label={`Remove ${name}`}>Remove</Button>
            </Popconfirm>
          </li>
        ))}
      </ul>
    </section>
  )
}
