export { check, InputError } from './check'
export { completePlanRequest, planRequestSchema } from './planRequest'
export { fuseSettingsSchema, type FuseSettings } from './fuseSettings'
export { sceneRequestSchema } from './sceneRequest'
