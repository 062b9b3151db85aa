import type { ReactNode } from 'react'
import type { Place, Step, StepName, StepOf } from '@/core/finish'
import type { Rectangle } from '@/core/raster'

/** What an editor of a step is handed. */
export interface EditorProps<K extends StepName> {
  step: StepOf<K>
  /** `kind` names a change that goes on, such as a handle that is dragged: it is undone as one. */
  onStep: (step: StepOf<K>, kind?: string) => void
  /** Size of the picture at this step, in its px. */
  width: number
  height: number
  /** Px of it for one of the render's. */
  scale: number
  /** Shape of the frames. */
  frames: { width: number; height: number }
  /** Every frame of the run, also those that were left out: one of them may show a grey card. */
  all: { id: number; uid: string; name: string }[]
  /** How much light of each kind there is before it. */
  light?: number[]
  slices: number
  renderId: number
  /** Of the render. */
  full: { width: number; height: number }
  /** Up to this one, what is known filled in. */
  upTo: Step[]
  /** Where one looks closely, in px of the picture. */
  look: Place
  onLook: (place: Place) => void
  /** The part that all frames show, where there are edges that not all do. */
  covered?: Rectangle
  /** Whether the size of a pixel on the subject is known from the plan. */
  scaleKnown: boolean
}

/** What an editor lays over the picture: Konva nodes, in px of the screen; `times` px of the screen for one of the picture. */
export interface OverlayProps<K extends StepName> extends EditorProps<K> {
  times: number
}

/** How a step is changed: beside the picture, and on it. */
export interface Editor<K extends StepName> {
  Fields: (props: EditorProps<K>) => ReactNode
  Overlay?: (props: OverlayProps<K>) => ReactNode
  /** The picture is shown as it is before the step, to choose on. */
  before?: boolean
}
