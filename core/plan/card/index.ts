export { planCsv } from './csv'
export { planGcode, type RailMotion } from './gcode'
