import { useEffect } from 'react'

const PRESS_Hz = 880
const TONE_s = 0.12

/** Says a sentence whenever it changes, with a tone and a short buzz where it is time to press. Nothing where it is switched off. */
export function useAloud(on: boolean, text: string, press: boolean): void {
  useEffect(() => {
    if (!on || !text) return
    if ('vibrate' in navigator) navigator.vibrate(press ? [60, 60, 60] : 40)
    if (press) tone()
    if (!('speechSynthesis' in window)) return
    // What was being said is over: the hand has gone on.
    speechSynthesis.cancel()
    const said = new SpeechSynthesisUtterance(text)
    said.lang = 'en'
    speechSynthesis.speak(said)
    return () => speechSynthesis.cancel()
  }, [on, text, press])
}

function tone(): void {
  const sound = new AudioContext()
  const source = sound.createOscillator()
  source.frequency.value = PRESS_Hz
  source.connect(sound.destination)
  source.start()
  source.stop(sound.currentTime + TONE_s)
  source.onended = () => void sound.close()
}
