import { AS_IT_IS, type Step } from '@/core/finish'
import { batchSchema, check, checkRecipe, finishRequestSchema, newRecipeSchema, takeRequestSchema, wordsSchema } from '.'
import { refusedAt } from './testRefusal'

/** A step of each kind, as it has to be at the least. */
const STEPS: { [K in Step['do']]: Extract<Step, { do: K }> } = {
  crop: { do: 'crop', x: 10, y: 20, width: 300, height: 200 },
  straighten: { do: 'straighten', degrees: -1.5 },
  neutral: { do: 'neutral', at: [10, 20], radius_px: 8 },
  card: { do: 'card', card: [0.9, 1, 0.8], frame: 'frame_003.jpg' },
  light: { do: 'light', stops: 0.3 },
  tones: { do: 'tones', points: [[-4, -3.6], [0, 0]] }, // prettier-ignore
  colour: { do: 'colour', strength: 1.1 },
  gradient: { do: 'gradient', from: [0, 0], to: [0, 100], stops: -1.5 },
  depthGradient: { do: 'depthGradient', from: 0.6, to: 1, stops: -0.5 },
  local: { do: 'local', path: [[1, 2], [3, 4]], radius_px: 60, softness: 0.8, stops: -0.7 }, // prettier-ignore
  sharpen: { do: 'sharpen', radius_px: 1.2, amount: 0.6, threshold: 0.01 },
  size: { do: 'size', long_px: 2400 },
  scaleBar: { do: 'scaleBar', pixel_mm: 0.006, length_mm: 5 },
  caption: { do: 'caption', text: '{title}', tone: 'light' },
}
const steps = Object.values(STEPS) as Step[]

test.each(steps.map((step) => [step.do, step] as const))('a step of the kind %s is read as it is, also switched off', (_, step) => {
  expect(checkRecipe({ steps: [step] })).toEqual({ ...AS_IT_IS, steps: [step] })
  expect(checkRecipe({ steps: [{ ...step, off: true }] }).steps[0].off).toBe(true)
})

test('what is not said gets its usual value', () => {
  expect(checkRecipe({ steps: [] })).toEqual(AS_IT_IS)
  const [neutral, local, caption] = checkRecipe({
    steps: [
      { do: 'neutral', at: [1, 1] },
      { do: 'local', path: [[1, 1]], radius_px: 5, stops: 1 },
      { do: 'caption', text: ' Seed capsule ' },
    ],
  }).steps
  expect([neutral, local, caption]).toMatchObject([{ radius_px: 8 }, { softness: 0.5 }, { text: 'Seed capsule', tone: 'light' }])
})

test('a recipe of this version is read, one of a later version is refused by its number', () => {
  expect(checkRecipe({ version: 1, steps: [] })).toEqual(AS_IT_IS)
  expect(refusedAt(() => checkRecipe({ version: 2, steps: [] }))).toEqual(['', 'finish.newer'])
})

const change = <K extends Step['do']>(name: K, part: object) => ({ steps: [{ ...STEPS[name], ...part }] })

test.each<[string, object, string, string]>([
  ['no steps at all', {}, 'steps', 'value.any.required'],
  ['steps that are no list', { steps: 'crop' }, 'steps', 'value.array.base'],
  ['too many steps', { steps: Array(201).fill(STEPS.light) }, 'steps', 'value.array.max'],
  ['a step nobody knows', { steps: [{ do: 'glow' }] }, 'steps.0.do', 'value.any.only'],
  ['a step without a kind', { steps: [{ stops: 1 }] }, 'steps.0.do', 'value.any.required'],
  ['a fact nobody knows', change('light', { glow: 1 }), 'steps.0.glow', 'value.object.unknown'],
  ['half a pixel', change('crop', { x: 1.5 }), 'steps.0.x', 'value.number.integer'],
  ['nothing left of the picture', change('crop', { width: 0 }), 'steps.0.width', 'value.number.min'],
  ['a turn on its head', change('straighten', { degrees: 180 }), 'steps.0.degrees', 'value.number.max'],
  ['light that is words', change('light', { stops: 'brighter' }), 'steps.0.stops', 'value.number.base'],
  ['ten thousand times the light', change('light', { stops: 14 }), 'steps.0.stops', 'value.number.max'],
  ['a place with one number', change('neutral', { at: [3] }), 'steps.0.at', 'value.array.includesRequiredUnknowns'],
  ['a card of two numbers', change('card', { card: [1, 1] }), 'steps.0.card', 'value.array.length'],
  ['a card without light', change('card', { card: [1, 1, 0] }), 'steps.0.card.2', 'value.number.min'],
  ['a ladder without rungs', change('tones', { points: [] }), 'steps.0.points', 'value.array.min'],
  ['a stroke without a path', change('local', { path: [] }), 'steps.0.path', 'value.array.includesRequiredUnknowns'],
  ['a stroke of no width', change('local', { radius_px: 0 }), 'steps.0.radius_px', 'value.number.greater'],
  ['a depth beyond the last frame', change('depthGradient', { to: 1.2 }), 'steps.0.to', 'value.number.max'],
  ['sharpening finer than a pixel', change('sharpen', { radius_px: 0.1 }), 'steps.0.radius_px', 'value.number.min'],
  ['a size of two kinds', change('size', { width_mm: 300, perInch: 300 }), 'steps.0', 'value.object.xor'],
  ['a size of no kind', { steps: [{ do: 'size' }] }, 'steps.0', 'value.object.missing'],
  ['paper without pixels to an inch', { steps: [{ do: 'size', width_mm: 300 }] }, 'steps.0', 'value.object.and'],
  ['an empty caption', change('caption', { text: '  ' }), 'steps.0.text', 'value.string.empty'],
  ['a caption of eleven lines', change('caption', { text: Array(11).fill('line').join('\n') }), 'steps.0.text', 'value.string.pattern.base'],
  ['a profile nobody knows', { steps: [], profile: 'huge' }, 'profile', 'value.any.only'],
  ['twelve bits', { steps: [], bits: 12 }, 'bits', 'value.any.only'],
  ['no quality', { steps: [], quality: 0 }, 'quality', 'value.number.min'],
])('%s is refused where it stands', (_, recipe, field, code) => {
  expect(refusedAt(() => checkRecipe(recipe))).toEqual([field, code])
})

test.each<[string, object, string]>([
  ['tones that fall', change('tones', { points: [[-4, -1], [-2, -3], [0, 0]] }), 'finish.tones'], // prettier-ignore
  ['two rungs at one tone', change('tones', { points: [[-4, -4], [-4, -3], [0, 0]] }), 'finish.tones'], // prettier-ignore
  ['a line that ends where it begins', change('gradient', { to: [0, 0] }), 'finish.shortLine'],
  ['a depth that ends where it begins', change('depthGradient', { from: 1 }), 'finish.shortLine'],
  ['a picture of no pixels', change('size', { long_px: 0 }), 'finish.size'],
  ['a picture of 200,000 px', change('size', { long_px: 200_000 }), 'finish.size'],
])('%s is refused by what it would do', (_, recipe, code) => {
  expect(refusedAt(() => checkRecipe(recipe))[1]).toBe(code)
})

test('rungs may come in any order', () => {
  expect(checkRecipe(change('tones', { points: [[0, 0], [-4, -3]] })).steps).toHaveLength(1) // prettier-ignore
})

describe('what a screen sends beside a recipe', () => {
  test('a name is needed to keep one, and may be so long', () => {
    expect(check(newRecipeSchema, { name: ' Web ', recipe: {} }).name).toBe('Web')
    expect(refusedAt(() => check(newRecipeSchema, { name: ' ', recipe: {} }))).toEqual(['name', 'value.string.empty'])
    expect(refusedAt(() => check(newRecipeSchema, { name: 'x'.repeat(121), recipe: {} }))).toEqual(['name', 'value.string.max'])
  })

  test('formats, and what is taken along, are known ones', () => {
    expect(refusedAt(() => check(finishRequestSchema, { recipe: {}, format: 'gif' }))).toEqual(['format', 'value.any.only'])
    expect(refusedAt(() => check(takeRequestSchema, { what: 'soul', ending: 'zip' }))).toEqual(['what', 'value.any.only'])
    expect(refusedAt(() => check(takeRequestSchema, { what: 'relief', ending: '../x' }))).toEqual(['ending', 'value.string.alphanum'])
  })

  test('many are some, and not too many', () => {
    const many = (count: number) => ({ renders: Array.from({ length: count }, (_, k) => k + 1), format: 'jpg' })
    expect(check(batchSchema, many(500)).renders).toHaveLength(500)
    expect(refusedAt(() => check(batchSchema, many(0)))).toEqual(['renders', 'value.array.min'])
    expect(refusedAt(() => check(batchSchema, many(501)))).toEqual(['renders', 'value.array.max'])
  })

  test('words to draw have a height that can be drawn', () => {
    expect(check(wordsSchema, { text: 'Seed', height: '20' })).toEqual({ text: 'Seed', height: 20 })
    expect(refusedAt(() => check(wordsSchema, { text: 'Seed', height: 4000 }))).toEqual(['height', 'value.number.max'])
  })
})
