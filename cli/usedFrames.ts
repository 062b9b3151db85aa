import { refusal } from '@/core/words'
import { placeOf, type FrameFile, type FramePlace, type Registration } from '@/schemas'

/** A frame that a picture was made of, and how it lies on the reference. */
export interface UsedFrame {
  file: FrameFile
  place: FramePlace
}

/** The frames that a render was made of, in focus order. @throws Refusal naming one whose file is not there. */
export function usedFrames(frames: FrameFile[], registration: Registration): UsedFrame[] {
  return registration.frames.flatMap(({ file: name }) => {
    const place = placeOf(registration, name)
    if (!place) return []
    const file = frames.find((frame) => frame.name === name)
    if (!file) throw refusal('mend.frameGone', { frame: name })
    return [{ file, place }]
  })
}
