import type { StepName } from '@/core/finish'
import { caption } from './caption'
import { card } from './card'
import type { Editor } from './editor'
import { Ladder } from './Ladder'
import { scaleBar, sharpen } from './last'
import { colour, light } from './light'
import { depthGradient, gradient, local, neutral } from './places'
import { crop, size, straighten } from './shape'

/** How each step is changed. The compiler finds one that is missing here. */
export const EDITORS: { [K in StepName]: Editor<K> } = {
  crop,
  straighten,
  neutral,
  card,
  light,
  tones: { Fields: Ladder },
  colour,
  gradient,
  depthGradient,
  local,
  sharpen,
  size,
  scaleBar,
  caption,
}

export type { Editor, EditorProps, OverlayProps } from './editor'
