export { ExerciseScreen } from './ExerciseScreen'
export { PracticeScreen } from './PracticeScreen'
