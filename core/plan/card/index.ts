export { cautions, checklist, type CardContext, type Surrounding } from './checklist'
export { planCsv } from './csv'
export { planGcode, type RailMotion } from './gcode'
