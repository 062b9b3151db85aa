import Joi from 'joi'
import { MOST_side_px, PROFILES, type Recipe, type Step, type StepName } from '@/core/finish'
import { refusal } from '@/core/words'
import { check } from './check'
import { FINISHED_FORMATS, TAKE_NAMES, type FinishedFormat, type Take, type TakeEnding } from './formats'

/** Version of recipes that this version writes and reads. */
export const RECIPE_VERSION = 1
/** A recipe holds so many steps at the most. */
const MOST_STEPS = 200

const whole = () => Joi.number().integer().max(200_000).required()
const coordinate = Joi.number().min(-200_000).max(200_000).required()
const place = Joi.array().length(2).ordered(coordinate, coordinate).required()
const stops = Joi.number().min(-10).max(10).required()
const part = () => Joi.number().min(0).max(1)

/** What a step of each kind holds. */
const STEPS: Record<StepName, Joi.SchemaMap> = {
  crop: { x: whole(), y: whole(), width: whole().min(1), height: whole().min(1) },
  straighten: { degrees: Joi.number().min(-45).max(45).required() },
  neutral: { at: place, radius_px: Joi.number().min(0.5).max(1000).default(8) },
  card: { card: Joi.array().length(3).items(Joi.number().min(0.01).max(100)).required(), frame: Joi.string().max(255) },
  light: { stops },
  tones: {
    points: Joi.array()
      .items(Joi.array().length(2).ordered(Joi.number().min(-16).max(1).required(), Joi.number().min(-16).max(4).required()))
      .min(1)
      .max(20)
      .required(),
  },
  colour: { strength: Joi.number().min(0).max(4).required() },
  gradient: { from: place, to: place, stops },
  depthGradient: { from: part().required(), to: part().required(), stops },
  local: {
    path: Joi.array().items(place).min(1).max(20_000).required(),
    radius_px: Joi.number().greater(0).max(20_000).required(),
    softness: part().default(0.5),
    stops,
    gate: Joi.object({ near: part().default(0), far: part().default(1) }),
  },
  sharpen: {
    radius_px: Joi.number().min(0.3).max(20).required(),
    amount: Joi.number().min(0).max(5).required(),
    threshold: part().default(0),
  },
  size: { long_px: Joi.number().integer(), width_mm: Joi.number().greater(0).max(50_000), perInch: Joi.number().min(1).max(10_000) },
  caption: {
    text: Joi.string()
      .trim()
      .min(1)
      .max(1000)
      .pattern(/^([^\n]*\n){0,9}[^\n]*$/)
      .required(),
    tone: Joi.valid('light', 'dark').default('light'),
  },
  scaleBar: { pixel_mm: Joi.number().greater(0).required(), length_mm: Joi.number().greater(0).required() },
}

/** Rules between the parts of a step. */
const RULES: Partial<Record<StepName, (schema: Joi.ObjectSchema) => Joi.ObjectSchema>> = {
  size: (schema) => schema.xor('long_px', 'width_mm').and('width_mm', 'perInch'),
}

const stepSchema = Joi.alternatives().conditional('.do', {
  switch: Object.entries(STEPS).map(([name, facts]) => {
    const schema = Joi.object({ do: Joi.string(), off: Joi.boolean(), ...facts })
    return { is: name, then: RULES[name as StepName]?.(schema) ?? schema }
  }),
  otherwise: Joi.object({ do: Joi.valid(...Object.keys(STEPS)).required() }).unknown(),
})

/** A recipe as it is kept and travels. */
export const recipeSchema = Joi.object<Recipe & { version?: number }>({
  version: Joi.number().integer(),
  steps: Joi.array().items(stepSchema).max(MOST_STEPS).required(),
  profile: Joi.valid(...PROFILES).default('keep'),
  bits: Joi.valid(8, 16).default(16),
  quality: Joi.number().integer().min(1).max(100).default(92),
  for: Joi.object({ width: whole().min(1), height: whole().min(1), pixel_mm: Joi.number().greater(0) }),
}).required()

/**
 * A recipe that was read, with defaults filled in.
 * @throws Refusal where a step is not what it should be, the tones fall, a line has no length, or a newer version wrote it.
 */
export function checkRecipe(value: unknown): Recipe {
  const { version } = (value ?? {}) as { version?: unknown }
  if (typeof version === 'number' && version > RECIPE_VERSION) throw refusal('finish.newer', { version })
  const { version: _, ...recipe } = check(recipeSchema, value)
  for (const step of recipe.steps) checkStep(step)
  return recipe
}

function checkStep(step: Step): void {
  if (step.do === 'tones') {
    const points = [...step.points].sort(([a], [b]) => a - b)
    if (points.some(([from, to], k) => k > 0 && (from <= points[k - 1][0] || to <= points[k - 1][1]))) throw refusal('finish.tones')
  }
  const same = step.do === 'gradient' ? step.from.every((at, k) => at === step.to[k]) : step.do === 'depthGradient' && step.from === step.to
  if (same) throw refusal('finish.shortLine')
  if (step.do === 'size' && 'long_px' in step && (step.long_px < 1 || step.long_px > MOST_side_px))
    throw refusal('finish.size', { long_px: step.long_px, most_px: MOST_side_px })
}

/** A recipe to keep, and its name. */
export const newRecipeSchema = Joi.object<{ name: string; recipe: unknown }>({
  name: Joi.string().trim().min(1).max(120).required().label('Name'),
  recipe: Joi.object().unknown().required(),
})

/** A picture to finish: in which format, and by what it was called where the recipe has a name. */
export const finishRequestSchema = Joi.object<{ recipe: unknown; format: FinishedFormat; name?: string }>({
  recipe: Joi.object().unknown().required(),
  format: Joi.valid(...FINISHED_FORMATS).required(),
  name: Joi.string().trim().max(120),
})

/** What is taken along of a render; an ending that does not serve is told by whoever writes it. */
export const takeRequestSchema = Joi.object<{ what: Take; ending: TakeEnding }>({
  what: Joi.valid(...TAKE_NAMES).required(),
  ending: Joi.string().alphanum().max(5).required(),
})

/** Renders that a kept recipe is carried out on. */
export const batchSchema = Joi.object<{ renders: number[]; format: FinishedFormat }>({
  renders: Joi.array().items(Joi.number().integer().min(1)).min(1).max(500).required(),
  format: Joi.valid(...FINISHED_FORMATS).required(),
})

/** Words to draw, so many px high. */
export const wordsSchema = Joi.object<{ text: string; height: number }>({
  text: Joi.string().min(1).max(1000).required(),
  height: Joi.number().integer().min(4).max(400).required(),
})

export type ProofOf = 'picture' | 'depth' | 'confidence'

/** A small picture to try a recipe on. */
export const proofSchema = Joi.object<{ of: ProofOf; width: number }>({
  of: Joi.valid('picture', 'depth', 'confidence').required(),
  width: Joi.number().integer().min(16).max(2000).required(),
})
