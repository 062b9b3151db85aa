import type { ReactNode } from 'react'
import styles from './phone.module.css'

/** How a phone is told to trust this computer, in three pictures, and what the run card cannot do until it does. */
export function TrustSteps() {
  return (
    <section aria-labelledby="trust" className={styles.trust}>
      <h2 id="trust">Without a connection</h2>
      <p className={styles.lead}>
        Once the phone trusts this computer’s certificate, it keeps the run card: it opens where there is no network, and brings its log home later.
        Until then the card goes on only while its tab stays open; a tab that was closed cannot be opened again without a connection.
      </p>
      <ol>
        <Step picture={<Fetched />} title="Fetch the certificate">
          On the phone, open the address that pairing shows, with <code>/nitidus.crt</code> behind it. It offers to save or install a certificate.
        </Step>
        <Step picture={<Trusted />} title="Trust it">
          In the phone’s settings, look for certificates. Install “Nitidus on this network”, and switch it on for websites if there is a switch.
        </Step>
        <Step picture={<Kept />} title="Open Nitidus again">
          The warning is gone. Open the run card once while you are connected; from then on it is kept.
        </Step>
      </ol>
    </section>
  )
}

function Step({ picture, title, children }: { picture: ReactNode; title: string; children: ReactNode }) {
  return (
    <li>
      <svg viewBox="36 0 48 90" aria-hidden="true">
        <rect x="38" y="4" width="44" height="82" rx="6" className={styles.frame} />
        {picture}
      </svg>
      <h3>{title}</h3>
      <p>{children}</p>
    </li>
  )
}

/** A sheet with a seal comes down into the phone. */
const Fetched = () => (
  <>
    <path d="M60 12v26m-8-8 8 8 8-8" className={styles.line} />
    <rect x="48" y="46" width="24" height="30" rx="2" className={styles.line} />
    <circle cx="60" cy="66" r="4" className={styles.seal} />
    <path d="M53 53h14" className={styles.line} />
  </>
)

/** A row of settings, one of them switched on. */
const Trusted = () => (
  <>
    <path d="M46 22h28M46 36h16" className={styles.line} />
    <rect x="56" y="46" width="20" height="11" rx="5.5" className={styles.seal} />
    <circle cx="70.5" cy="51.5" r="3.5" className={styles.knob} />
    <path d="M46 70h28" className={styles.line} />
  </>
)

/** The slices of a plan, and the connection that is not needed. */
const Kept = () => (
  <>
    <path d="M48 60h24M48 66h24M48 72h24M48 78h24" className={styles.line} />
    <path d="M48 32a17 17 0 0 1 24 0M53 38a10 10 0 0 1 14 0" className={styles.line} />
    <circle cx="60" cy="44" r="2" className={styles.seal} />
    <path d="M47 48 73 24" className={styles.cut} />
  </>
)
