import { useMemo } from 'react'
import { planSeries, type Plan, type PlanRequest } from '@/core/plan'
import { completePlanRequest, type ShootDetail } from '@/schemas'

/** The plan that a shoot was kept with. */
export function useStoredPlan({ planRequest }: ShootDetail): { plan: Plan; request: PlanRequest } {
  return useMemo(() => {
    const request = completePlanRequest(planRequest)
    return { plan: planSeries(request), request }
  }, [planRequest])
}
