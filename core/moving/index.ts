export { calmed } from './calmed'
export { lookedAt_px, MovingFinder, type Lying, type Moved } from './finder'
export { heldBack, withMoments, type MovedPart, type MovedParts, type Owners } from './parts'
export { MOVING, type Moving } from './purposes'
