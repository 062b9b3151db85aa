'use client'

import { MendScreen } from '@/ui/mend'
import { shootPage } from '@/ui/shell'

export default shootPage(MendScreen)
