import { STIRRED, stirredShare } from '../register'
import type { FrameFacts } from './frameFacts'
import type { Pairs } from './pairs'

/** Whether parts of the subject moved on their own between two neighbours, beside what the camera did. */
export function stirredBetween(before: FrameFacts, after: FrameFacts, pairs: Pairs): boolean {
  const { motion } = pairs.between(before, after)
  return stirredShare(pairs.preparedOf(before), pairs.preparedOf(after), motion, before.luma.width) >= STIRRED
}
