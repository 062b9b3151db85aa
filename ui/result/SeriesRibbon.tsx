'use client'

import { useMemo } from 'react'
import { FocusLine, type Plan, type PlanRequest } from '@/core/plan'
import { DepthRibbon } from '../ribbon'
import type { NamedFrame } from '../namedFrames'
import { OrderStrip } from './OrderStrip'

interface Props {
  frames: NamedFrame[]
  plan?: Plan
  request?: PlanRequest
  shares: number[]
  selected?: number
  onSelect: (index: number) => void
}

/** The frames of a render on the depth ribbon where their focus is known, whichever of the plan they are; else in their order. */
export function SeriesRibbon({ frames, plan, request, shares, selected, onSelect }: Props) {
  const known = plan && request && frames.every(({ position_mm }) => position_mm !== null)
  if (!known) return <OrderStrip frames={frames} shares={shares} selected={selected} onSelect={onSelect} />
  return <Placed frames={frames} plan={plan} request={request} shares={shares} selected={selected} onSelect={onSelect} />
}

function Placed({ frames, plan, request, shares, selected, onSelect }: Props & { plan: Plan; request: PlanRequest }) {
  const { taken, slices } = useMemo(() => {
    const line = new FocusLine(plan, plan.frames)
    const near_mm = request.subject.kind === 'range' ? request.subject.near_mm : 0
    const placed = frames.map(({ position_mm }) => line.frameAt(line.placeOf(position_mm! + near_mm)))
    return { taken: placed, slices: placed.map(({ index }) => index - 1) }
  }, [frames, plan, request])
  const perSlice = plan.frames.map((_, slice) => shares.reduce((sum, share, k) => sum + (slices[k] === slice ? share : 0), 0))
  const nearest = (slice: number) => slices.reduce((best, at, k) => (Math.abs(at - slice) < Math.abs(slices[best] - slice) ? k : best), 0)
  return (
    <DepthRibbon
      plan={plan}
      request={request}
      dark
      taken={taken}
      shares={perSlice}
      selected={selected === undefined ? undefined : slices[selected]}
      onSelect={(slice) => onSelect(nearest(slice))}
    />
  )
}
