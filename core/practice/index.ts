import { byHand } from './byHand'
import { choose } from './choose'
import { fiveMinutes } from './fiveMinutes'
import { nearAndFar } from './nearAndFar'
import { wander } from './wander'
import { whatHappened } from './whatHappened'

export { LEVELS, type Exercise, type Level, type Mark } from './exercise'
export { HandRail, type ByHandAnswer, type ByHandTask } from './byHand'
export { bestOf, seriesOf, type ChooseAnswer, type ChooseTask } from './choose'
export { Evening, fewestFrames, hyperfocalOf, LIGHT_s, type FiveMinutesAnswer, type FiveMinutesTask } from './fiveMinutes'
export { extentOf, type NearAndFarAnswer, type NearAndFarTask } from './nearAndFar'
export { placesOf, type WanderAnswer, type WanderTask, type WrongPlace } from './wander'
export { nameOf, strikesOneFrame, type HappenedAnswer, type HappenedTask, type Happening } from './whatHappened'
export { PICTURE } from './scenes'

/** Every exercise by its name, in the order in which one would take them. */
export const EXERCISES = { nearAndFar, choose, byHand, whatHappened, wander, fiveMinutes }

export type ExerciseName = keyof typeof EXERCISES

export const EXERCISE_NAMES = Object.keys(EXERCISES) as ExerciseName[]
