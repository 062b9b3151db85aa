'use client'

import { Segmented } from 'antd'
import { memo, useMemo, useState } from 'react'
import { sameSize, tradeTable, type TradeBy } from '@/core/plan'
import { subjectDistance_mm } from '@/core/optics'
import type { PlanSheet, SheetPlan } from '@/core/sheet'
import { apertureText, significant } from '@/core/units'
import { useUnits } from '../../units'
import styles from './answer.module.css'

const APERTURES = [2.8, 4, 5.6, 8, 11, 16, 22]
const DISTANCES = [0.6, 0.8, 1, 1.5, 2.5, 4]

/** Depth of field in one frame against the subject's size, for apertures and distances or focal lengths, with the reason why none does it all. */
export const TradePanel = memo(function TradePanel({
  planned,
  sheet,
  focalLengths_mm,
}: {
  planned: SheetPlan
  sheet: PlanSheet
  focalLengths_mm: number[]
}) {
  const { length } = useUnits()
  const [by, setBy] = useState<TradeBy>('distance')
  const { plan, request, gear } = planned
  const { subject, optics } = request
  const { lens } = gear
  const trade = useMemo(() => {
    if (subject.kind !== 'depth' || optics.kind !== 'lens') return undefined
    const here = subjectDistance_mm(lens.focalLength_mm, plan.magnification)
    const settings =
      by === 'distance'
        ? DISTANCES.map((factor) => ({ focalLength_mm: lens.focalLength_mm, distance_mm: here * factor }))
        : sameSize(focalLengths_mm, plan.magnification)
    const apertures = APERTURES.filter((fNumber) => fNumber >= lens.widestFNumber && fNumber <= lens.smallestFNumber)
    return tradeTable(
      request,
      { width_mm: sheet.width_mm && sheet.width_mm > 0 ? sheet.width_mm : 30, depth_mm: subject.depth_mm },
      lens.pupilRatio,
      apertures,
      settings,
    )
  }, [by, subject, optics, lens, plan.magnification, request, sheet.width_mm, focalLengths_mm])
  if (!trade) return null
  const [head] = trade.rows
  return (
    <section>
      <h2>One frame instead: depth against size</h2>
      <p className={styles.row}>
        <Segmented<TradeBy>
          size="small"
          aria-label="What changes along a row"
          value={by}
          onChange={setBy}
          options={[
            { value: 'distance', label: 'step back' },
            { value: 'focalLength', label: 'another focal length, same size' },
          ]}
        />
      </p>
      <p data-code={trade.reason.code}>{trade.reason.text}</p>
      <div className={styles.tableFrame}>
        <table className={styles.table}>
          <thead>
            <tr>
              <th>Depth of field</th>
              {head?.cells.map(({ focalLength_mm, distance_mm, share_percent }) => (
                <th key={`${focalLength_mm} ${distance_mm}`}>
                  {by === 'distance' ? length(distance_mm) : `${focalLength_mm} mm at ${length(distance_mm)}`}
                  <br />
                  {significant(share_percent, 2)} % of the width
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {trade.rows.map(({ fNumber, cells }) => (
              <tr key={fNumber}>
                <td>{apertureText(fNumber)}</td>
                {cells.map(({ depthOfField_mm, holdsAll, sharp, distance_mm, focalLength_mm }) => (
                  <td key={`${focalLength_mm} ${distance_mm}`} className={holdsAll && sharp ? styles.picked : undefined}>
                    {length(depthOfField_mm)}
                    <small>{!sharp ? 'diffraction' : holdsAll ? 'all of it' : ''}</small>
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  )
})
