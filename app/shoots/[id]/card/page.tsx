'use client'

import { RunCardScreen } from '@/ui/card'
import { shootPage } from '@/ui/shell'

export default shootPage(RunCardScreen)
