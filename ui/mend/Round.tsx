'use client'

import type { NamedFrame } from '../namedFrames'
import type { useRound } from './useRound'
import type { useWalk } from './useWalk'
import styles from './mend.module.css'

interface Props {
  round: ReturnType<typeof useRound>
  walk: ReturnType<typeof useWalk>
  /** How much of the picture is seen at 100 %. */
  onWalk: () => void
  frames: NamedFrame[]
  /** The suggestion is seen while this is held. */
  onBlink: (blinking: boolean) => void
  /** Takes the suggestion, and goes on. */
  onAccept: () => void
}

/** The round: one place after another at 100 %, each with what it is and what would mend it. */
export function Round({ round, walk, onWalk, frames, onBlink, onAccept }: Props) {
  const { places, place, at, looking, error, look, go, isSeen, leave } = round
  if (walk.view)
    return (
      <div className={styles.round} role="group" aria-label="A walk from front to back">
        <strong>
          {walk.walk!.at + 1} of {walk.walk!.views.length}
        </strong>
        <span>A walk from front to back, so that nothing is left unseen.</span>
        <button type="button" onClick={() => walk.go(-1)}>
          Back
        </button>
        <button type="button" onClick={() => walk.go(1)}>
          {walk.walk!.at + 1 < walk.walk!.views.length ? 'On' : 'Done'} <kbd>N</kbd>
        </button>
        <button type="button" onClick={walk.leave}>
          Pause the walk
        </button>
      </div>
    )
  if (!places || !place)
    return (
      <div className={styles.round} role="group" aria-label="Places worth a look">
        <span>{introOf(places, isSeen)}</span>
        {places && places.length > 0 && (
          <button type="button" onClick={() => go(1)}>
            Go through them <kbd>N</kbd>
          </button>
        )}
        <button type="button" disabled={looking} onClick={() => void look()}>
          {looking ? 'Looking…' : places ? 'Look again' : 'Look the picture over'}
        </button>
        <button type="button" onClick={onWalk}>
          Walk from front to back
        </button>
        {walk.error && <p role="alert">▲ {walk.error}</p>}
        {error && <p role="alert">▲ {error}</p>}
      </div>
    )
  const { suggestion } = place
  return (
    <div className={styles.round} role="group" aria-label="Places worth a look">
      <strong>
        {at! + 1} of {places.length}
      </strong>
      <span data-testid="place">{named(place.text, frames)}</span>
      {suggestion && !('style' in suggestion) && (
        <>
          <button type="button" onPointerDown={() => onBlink(true)} onPointerUp={() => onBlink(false)} onPointerLeave={() => onBlink(false)}>
            Hold to see it mended <kbd>B</kbd>
          </button>
          <button type="button" className={styles.main} onClick={onAccept}>
            Mend it so <kbd>Enter</kbd>
          </button>
        </>
      )}
      <button type="button" onClick={() => go(1)}>
        {suggestion ? 'Leave it, next' : 'Next'} <kbd>N</kbd>
      </button>
      <button type="button" onClick={leave}>
        End the round
      </button>
    </div>
  )
}

function introOf(places: ReturnType<typeof useRound>['places'], isSeen: (place: NonNullable<typeof places>[number]) => boolean): string {
  if (!places) return 'Let the frames be compared with the picture, and be led to what may be wrong.'
  if (places.length === 0) return 'Nothing was found that is worth a look.'
  const open = places.filter((place) => !isSeen(place)).length
  const many = places.length === 1 ? 'One place is worth a look.' : `${places.length} places are worth a look, the worst first.`
  return open === places.length ? many : `${many} ${open === 0 ? 'You have seen all of them.' : `${open} not seen yet.`}`
}

/** Files as the screen calls their frames. */
function named(text: string, frames: NamedFrame[]): string {
  return frames.reduce((sentence, { file, number }) => sentence.replaceAll(file, `frame ${number}`), text).replace(/(^|\. )frame/g, '$1Frame')
}
