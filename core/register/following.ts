/** Whether parts that move on their own are followed: from pair to pair where some did, in all of them, or not at all. */
export const FOLLOWING = ['whereMoved', 'always', 'never'] as const
export type Following = (typeof FOLLOWING)[number]
