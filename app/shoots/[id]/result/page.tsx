'use client'

import { ResultScreen } from '@/ui/result'
import { shootPage } from '@/ui/shell'

export default shootPage(ResultScreen)
