'use client'

import { PlanScreen } from '@/ui/plan'
import { shootPage } from '@/ui/shell'

export default shootPage(PlanScreen)
