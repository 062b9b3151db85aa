import { useMutation } from '@tanstack/react-query'
import { Select } from 'antd'
import { useState, type MouseEvent } from 'react'
import type { CardColour, Place } from '@/core/finish'
import { fetchJson } from '../../api'
import { Amount } from './Amount'
import type { Editor, EditorProps } from './editor'
import styles from '../deliver.module.css'

/** Whichever frame of the run shows the card, sharp or not: what counts is the light that it was in. */
function Fields({ step, onStep, all, frames }: EditorProps<'card'>) {
  const [id, setId] = useState(() => all.find(({ name }) => name === step.frame)?.id)
  const [at, setAt] = useState<Place>()
  const frame = all.find((each) => each.id === id)
  const { mutate, error, isPending } = useMutation({
    mutationFn: ({ of, place: [x, y] }: { of: { id: number; name: string }; place: Place }) =>
      fetchJson<{ card: CardColour }>(`/api/frames/${of.id}/card?x=${x}&y=${y}`),
  })
  const [x, y] = at ?? [0.5, 0.5]
  const take = (of: typeof frame, place: Place) => {
    setAt(place)
    // Handed over here, for only the last place that was asked for counts: an earlier one may be answered later.
    if (of) mutate({ of, place }, { onSuccess: ({ card }) => onStep({ ...step, card, frame: of.name }, 'card') })
  }
  const onPicture = ({ currentTarget, clientX, clientY }: MouseEvent) => {
    const { left, top, width, height } = currentTarget.getBoundingClientRect()
    take(frame, [(clientX - left) / width, (clientY - top) / height])
  }
  return (
    <>
      <p>Choose the frame that shows a grey card, and click on the card.</p>
      <Select
        aria-label="Frame with the grey card"
        placeholder="Frame with the grey card"
        style={{ width: '100%' }}
        showSearch
        optionFilterProp="label"
        value={id}
        onChange={(chosen: number) => {
          setId(chosen)
          setAt(undefined)
        }}
        options={all.map(({ id, name }) => ({ value: id, label: name }))}
      />
      {frame && (
        <>
          <div className={styles.card} onClick={onPicture} data-testid="card-frame">
            <img width={frames.width} height={frames.height} src={`/api/frames/${frame.id}/thumb`} alt={`${frame.name}, to click on the card`} />
            {at && <i style={{ left: `${100 * x}%`, top: `${100 * y}%` }} />}
          </div>
          {(['across', 'down'] as const).map((way, axis) => (
            <Amount
              key={way}
              label={`Place of the card, ${way}`}
              text={`${Math.round(100 * [x, y][axis])} % ${way}`}
              value={100 * [x, y][axis]}
              min={0}
              max={100}
              step={1}
              onValue={(percent) => take(frame, axis === 0 ? [percent / 100, y] : [x, percent / 100])}
            />
          ))}
        </>
      )}
      <p role="status">{isPending ? 'Reading the card …' : ''}</p>
      {error && <p role="alert">▲ {error.message}</p>}
    </>
  )
}

export const card: Editor<'card'> = { Fields }
