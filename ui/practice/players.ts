import dynamic from 'next/dynamic'
import type { ComponentType } from 'react'
import type { ExerciseName } from '@/core/practice'
import type { PlayerProps } from './player'

const player = (load: () => Promise<unknown>) => dynamic(load as () => Promise<ComponentType<PlayerProps<unknown, unknown>>>, { ssr: false })

/** The screen of each exercise, loaded when it is played. */
export const PLAYERS: Record<ExerciseName, ComponentType<PlayerProps<unknown, unknown>>> = {
  nearAndFar: player(() => import('./NearAndFarPlayer').then((part) => part.NearAndFarPlayer)),
  choose: player(() => import('./ChoosePlayer').then((part) => part.ChoosePlayer)),
  byHand: player(() => import('./ByHandPlayer').then((part) => part.ByHandPlayer)),
  whatHappened: player(() => import('./HappenedPlayer').then((part) => part.HappenedPlayer)),
  wander: player(() => import('./WanderPlayer').then((part) => part.WanderPlayer)),
  fiveMinutes: player(() => import('./FiveMinutesPlayer').then((part) => part.FiveMinutesPlayer)),
}
