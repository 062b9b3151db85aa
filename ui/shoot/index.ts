export { ShootScreen } from './ShootScreen'
export { surveyHeadline } from './roles'
