import { refusal } from '../words'
import { croppedBy, placed, resizedBy } from './placed'
import { broughtTo, shapeAfter } from './proof'
import type { MadeFor, Recipe, Step, StepOf } from './recipe'
import { roundLength_mm } from './scaleBar'

/** A bar as long as these parts of the picture keeps its length; another one gets a round one of its own. */
const BAR = { least: 0.04, most: 0.6 }
/** Shapes that differ by less are one: sizes are whole pixels. */
const SAME_shape = 0.01

/**
 * A recipe as it is for another picture than the one that it was made for: places and lengths lie alike, and a scale bar is reckoned by the
 * other picture's own pixels. One that does not say what it was made for stays as it is. How fine sharpening is and what size is delivered do
 * not depend on the picture.
 * @throws Refusal where a scale bar is asked for and nobody knows how large a pixel is.
 */
export function fittedRecipe(recipe: Recipe, picture: MadeFor): Recipe {
  const { for: made, ...rest } = recipe
  if (!made) return rest
  const alike = Math.abs((made.width * picture.height) / (made.height * picture.width) - 1) < SAME_shape
  const steps = broughtTo(recipe.steps, made, picture, (step, across, there, down) => {
    // Of one shape all is brought by one number: what is round stays so.
    const y = alike ? across : down
    return step.do === 'crop' ? croppedBy(step, across, y, there) : placed(step, resizedBy(across, y))
  })
  return { ...rest, steps: steps.map((step, k) => (step.do === 'scaleBar' && !step.off ? barFor(step, steps.slice(0, k), made, picture) : step)) }
}

function barFor(step: StepOf<'scaleBar'>, before: Step[], made: MadeFor, picture: MadeFor): Step {
  const { pixel_mm } = picture
  if (pixel_mm === undefined) throw refusal('finish.noScale')
  // Where the plan's size of a pixel was put right by hand, so is this one.
  const own_mm = made.pixel_mm === undefined ? pixel_mm : (pixel_mm * step.pixel_mm) / made.pixel_mm
  const unsized = before.filter(({ do: name }) => name !== 'size')
  const width_mm = own_mm * shapeAfter(unsized, picture).width
  const part = step.length_mm / width_mm
  return { ...step, pixel_mm: own_mm, length_mm: part < BAR.least || part > BAR.most ? roundLength_mm(width_mm) : step.length_mm }
}
