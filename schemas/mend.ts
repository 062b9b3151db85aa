import Joi from 'joi'
import type { MendDocument, MendEdit } from '@/core/mend'

/** A mend holds so many edits at the most, and a stroke so many points. */
export const MOST_EDITS = 20_000
const MOST_POINTS = 20_000
/** Wider than this a stroke covers any picture. */
const MOST_RADIUS_px = 20_000

const coordinate = Joi.number().min(-100_000).max(200_000).required()
const point = Joi.array().length(2).ordered(coordinate, coordinate)
const id = Joi.string().min(1).max(100).required()
const part = () => Joi.number().min(0).max(1)

const stroke = {
  id,
  path: Joi.array().items(point).min(1).max(MOST_POINTS).required(),
  radius_px: Joi.number().greater(0).max(MOST_RADIUS_px).required().messages({
    'number.greater': 'Give the stroke a radius above 0.',
    'number.max': 'Give the stroke a radius of at most {{#limit}} px.',
  }),
  softness: part().default(0.5),
  opacity: part().default(1),
  gate: Joi.object({ near: part().default(0), far: part().default(1) }),
}
const name = Joi.string().min(1).max(1000).required()

/** What an edit of each kind holds. */
const EDITS: Record<MendEdit['kind'], Joi.SchemaMap> = {
  donor: { ...stroke, frame: name, evenTone: Joi.boolean().default(false) },
  render: { ...stroke, file: name, evenTone: Joi.boolean().default(false) },
  heal: stroke,
  original: stroke,
  undo: { id, of: Joi.string().min(1).max(100).required() },
}

export const mendEditSchema = Joi.alternatives().conditional('.kind', {
  switch: Object.entries(EDITS).map(([kind, facts]) => ({ is: kind, then: Joi.object({ kind: Joi.string(), ...facts }) })),
  otherwise: Joi.object({ kind: Joi.valid(...Object.keys(EDITS)).required() }).unknown(),
})

const boundaries = Joi.array()
  .items(Joi.object({ frame: name, until: Joi.array().items(point).min(1).max(500), width_px: Joi.number().min(0).max(MOST_RADIUS_px).default(40) }))
  .min(2)
  .max(8)

/** What is painted on: the fused picture, one frame, or frames up to lines. */
export const mendBaseSchema = Joi.alternatives(Joi.valid('fused'), Joi.object({ frame: name }), Joi.object({ boundaries: boundaries.required() }))

/** A mend as it is kept: edits, never pixels. */
export const mendSchema = Joi.object<MendDocument>({
  base: mendBaseSchema.default('fused'),
  edits: Joi.array().items(mendEditSchema).max(MOST_EDITS).required(),
}).required()

/** A mend as a screen begins it. */
export const newMendSchema = Joi.object<{ title: string; base: MendDocument['base'] }>({
  title: Joi.string().trim().min(1).max(120).default('Mend'),
  base: mendBaseSchema.default('fused'),
})

/** Edits as a screen sends them. */
export const newEditsSchema = Joi.object<{ edits: MendEdit[] }>({ edits: Joi.array().items(mendEditSchema).min(1).max(500).required() })
