'use client'

import { ShootScreen } from '@/ui/shoot'
import { shootPage } from '@/ui/shell'

export default shootPage(ShootScreen)
