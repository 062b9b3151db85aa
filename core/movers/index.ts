export { isMoverKind, MOVER_KINDS, MOVERS, movesCamera, type MoverFacts, type MoverKind } from './movers'
