/** How parts that moved by themselves are shown: from one frame where that is sure, wherever it may be, or from all frames as they are. */
export const MOVING = ['auto', 'one', 'blend'] as const
export type Moving = (typeof MOVING)[number]
