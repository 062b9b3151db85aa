import { useMemo } from 'react'
import { planSeries, type Plan, type PlanRequest, completePlanRequest } from '@/core/plan'
import { isRefusal } from '@/core/words'

/** A kept plan, or why what was kept cannot be planned any more. */
export type StoredPlan =
  | { plan: Plan; request: PlanRequest; error?: undefined }
  /** Without an error there is none yet: the frames came first. */
  | { plan?: undefined; request?: undefined; error?: string }

/** The plan that a shoot was kept with, or that a run was shot by. */
export function useStoredPlan({ planRequest }: { planRequest: PlanRequest | null }): StoredPlan {
  return useMemo(() => {
    if (!planRequest) return {}
    try {
      const request = completePlanRequest(planRequest)
      return { plan: planSeries(request), request }
    } catch (error) {
      if (isRefusal(error)) return { error: error.message }
      throw error
    }
  }, [planRequest])
}
