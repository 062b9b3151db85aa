import { useMutation } from '@tanstack/react-query'
import { Select } from 'antd'
import { useState } from 'react'
import type { CardColour, Place } from '@/core/finish'
import { fetchJson } from '../../api'
import { PlaceOnFrame } from '../../forms/PlaceOnFrame'
import type { Editor, EditorProps } from './editor'

/** Whichever frame of the run shows the card, sharp or not: what counts is the light that it was in. */
function Fields({ step, onStep, all, frames }: EditorProps<'card'>) {
  const [id, setId] = useState(() => all.find(({ name }) => name === step.frame)?.id)
  const [at, setAt] = useState<Place>()
  const frame = all.find((each) => each.id === id)
  const { mutate, error, isPending } = useMutation({
    mutationFn: ({ of, place: [x, y] }: { of: { id: number; uid: string; name: string }; place: Place }) =>
      fetchJson<{ card: CardColour }>(`/api/frames/${of.id}/card?x=${x}&y=${y}`),
  })
  const take = (of: typeof frame, place: Place) => {
    setAt(place)
    // Handed over here, for only the last place that was asked for counts: an earlier one may be answered later.
    if (of) mutate({ of, place }, { onSuccess: ({ card }) => onStep({ ...step, card, frame: of.name }, 'card') })
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
        <PlaceOnFrame frame={frame} width={frames.width} height={frames.height} what="card" at={at} onPlace={(place) => take(frame, place)} />
      )}
      <p role="status">{isPending ? 'Reading the card …' : ''}</p>
      {error && <p role="alert">▲ {error.message}</p>}
    </>
  )
}

export const card: Editor<'card'> = { Fields }
