import QRCode from 'qrcode'
import { useEffect, useState } from 'react'
import type { FieldEntry } from '@/core/field'
import { saveText } from '../../save'
import { packed } from '../packing'
import { TouchButton } from '../TouchButton'
import styles from '../field.module.css'
import type { CardFile } from './OneFileCard'

interface Props {
  file: CardFile
  log: FieldEntry[]
  kept: boolean
}

/** The ways home for a log: as a file, or as codes that another device photographs. */
export function TakeHome({ file: { shoot, title }, log, kept }: Props) {
  const [shown, setShown] = useState(false)
  if (log.length === 0) return null
  const carried = { shoot, title, entries: log }
  return (
    <section className={styles.carry} aria-label="Bring the log home">
      {!kept && <p role="status">▲ This browser keeps nothing for a file. Save the log before you close this page.</p>}
      <div className={styles.row}>
        <TouchButton onClick={() => saveText(`${title}, log.json`, JSON.stringify(carried))}>Save the log as a file</TouchButton>
        <TouchButton aria-expanded={shown} onClick={() => setShown(!shown)}>
          Show it as codes
        </TouchButton>
      </div>
      {shown && <Codes key={log.length} of={carried} />}
    </section>
  )
}

/** The codes, one at a time and as large as the screen allows. */
function Codes({ of }: { of: Parameters<typeof packed>[0] }) {
  const [pictures, setPictures] = useState<string[]>([])
  const [at, setAt] = useState(0)
  const [error, setError] = useState('')
  const wanted = JSON.stringify(of)
  useEffect(() => {
    packed(JSON.parse(wanted))
      .then((codes) => Promise.all(codes.map((code) => QRCode.toDataURL(code, { margin: 2, scale: 6, errorCorrectionLevel: 'M' }))))
      .then(setPictures, (cause: Error) => setError(cause.message))
  }, [wanted])
  if (error) return <p role="alert">▲ {error}</p>
  if (pictures.length === 0) return null
  const many = pictures.length > 1
  return (
    <figure className={styles.code}>
      <img src={pictures[at]} alt={`Code ${at + 1} of ${pictures.length}`} />
      <figcaption>
        {many ? `Code ${at + 1} of ${pictures.length}. Photograph each of them` : 'Photograph this code'}, and choose the pictures on the run card of
        this shoot.
      </figcaption>
      {many && <TouchButton onClick={() => setAt((at + 1) % pictures.length)}>Next code</TouchButton>}
    </figure>
  )
}
