'use client'

import { DeliverScreen } from '@/ui/deliver'
import { shootPage } from '@/ui/shell'

export default shootPage(DeliverScreen)
