'use client'

import { FilePdfOutlined, PrinterOutlined } from '@ant-design/icons'
import { Alert, Button, Skeleton } from 'antd'
import { runCardOf, storedSheetPlan } from '@/core/sheet'
import { type ShootDetail } from '@/schemas'
import { useKit } from '../api'
import { Shell, ShootHeader } from '../shell'
import { useUnits } from '../units'
import { CardSheet } from './CardSheet'
import styles from './card.module.css'

/** The field sheet of a kept plan, to print or to take along as a PDF. */
export function RunCardScreen({ shoot }: { shoot: ShootDetail }) {
  const { data: kit } = useKit()
  const { system } = useUnits()
  const stored = kit && storedSheetPlan(shoot, kit)
  return (
    <Shell>
      <div className={styles.unprinted}>
        <ShootHeader shoot={shoot} step="plan" />
        <div className={styles.buttons}>
          <Button type="primary" icon={<PrinterOutlined />} onClick={() => window.print()}>
            Print
          </Button>
          <Button icon={<FilePdfOutlined />} href={`/api/shoots/${shoot.id}/card?units=${system}`}>
            PDF
          </Button>
        </div>
      </div>
      {!stored && <Skeleton active />}
      {stored && 'error' in stored && <Alert type="warning" showIcon title={`${stored.error} Change the plan, then print its card.`} />}
      {stored && 'plan' in stored && <CardSheet card={runCardOf(stored, stored.sheet, shoot, system)} />}
    </Shell>
  )
}
