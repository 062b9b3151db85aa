'use client'

import { memo } from 'react'
import { loadOf, seriesLight, stillness, type Load } from '@/core/plan'
import { settableShutter_s } from '@/core/optics'
import { lightSettingsOf, meteredLens, type PlanSheet, type SheetPlan } from '@/core/sheet'
import { apertureText, durationText, exposureText, significant } from '@/core/units'
import { useUnits } from '../../units'
import styles from './answer.module.css'
import { Why } from './Why'

/** Exposure, what the series uses up, and how still the scene must keep. */
export const LightPanel = memo(function LightPanel({ planned, sheet }: { planned: SheetPlan; sheet: PlanSheet }) {
  const { plan, request, gear } = planned
  const { length } = useUnits()
  const light = seriesLight(lightSettingsOf(sheet), meteredLens(request.optics))
  const { body } = gear
  const load = loadOf(plan, request, { card_GB: body.card_GB, framesPerCharge: body.framesPerCharge, popsPerCharge: gear.light.popsPerCharge })
  const still = stillness(plan.coc_mm, plan.magnification, light.exposure_s, plan.duration_s)
  const moves = gear.light.kind === 'daylight'
  return (
    <div className={styles.panels}>
      <section>
        <h2>Exposure of every frame</h2>
        <dl className={styles.figure}>
          <Why
            label="Exposure time"
            value={exposureText(request.timing.exposure_s)}
            reason={{
              why: 'Set by hand and the same in all frames, so that they are equally bright. The nearest time that the body can set.',
              formula: 't · 2^(filter + polariser + extension, if metered by hand − headroom)',
              inputs: `test exposure ${exposureText(sheet.testExposure_s!)}`,
              source: 'Allen & Triantaphillidou, The Manual of Photography, 10th ed. 2011',
            }}
          />
        </dl>
        <ul className={styles.lines}>
          {light.extension_stops >= 0.1 && (
            <li>
              Extension takes {significant(light.extension_stops, 2)} stops;{' '}
              {sheet.handMetered ? 'more light than the hand meter says.' : 'a meter behind the lens already counts them.'}
            </li>
          )}
          {(sheet.filter_stops ?? 0) > 0 && (
            <li>
              {sheet.filter_stops} stops of filter: {exposureText(sheet.testExposure_s!)} becomes{' '}
              {exposureText(settableShutter_s(sheet.testExposure_s! * 2 ** sheet.filter_stops!, body.shutterPerStop))}.
            </li>
          )}
          {(sheet.headroom_stops ?? 0) > 0 && <li>{sheet.headroom_stops} stops darker, so that glints in single frames keep their detail.</li>}
        </ul>
        <table className={styles.table}>
          <thead>
            <tr>
              <th>The same light at</th>
              <th>takes</th>
            </tr>
          </thead>
          <tbody>
            {light.equivalents.map(({ fNumber, exposure_s }) => (
              <tr key={fNumber}>
                <td>{apertureText(fNumber)}</td>
                <td>{exposureText(exposure_s)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      <section>
        <h2>What it uses</h2>
        <dl className={styles.figure}>
          <Why
            label="From first to last frame"
            value={durationText(load.duration_s)}
            reason={{
              why: 'So long the light has to stay as it is, and so long the batteries have to last.',
              formula: 'frames × time of a frame',
              inputs: `${plan.frameCount} × ${significant(load.perFrame_s, 3)} s; a fifth of each battery is kept in hand`,
              source: 'the kit’s own figures',
            }}
          />
        </dl>
        <ul className={styles.lines}>
          <li>{significant(load.perFrame_s, 3)} s a frame, moving and writing included.</li>
          {load.exposures !== plan.frameCount && (
            <li>
              {load.exposures} exposures, {request.timing.exposuresPerFrame} to a frame.
            </li>
          )}
          {load.verdicts.map((verdict) => (
            <VerdictItem key={verdict.what} {...verdict} />
          ))}
        </ul>
      </section>
      <section>
        <h2>How still the scene must stay</h2>
        <dl className={styles.figure}>
          <Why
            label="Fastest movement that stays sharp"
            value={Number.isFinite(still.mostSpeed_mmPerS) ? `${length(still.mostSpeed_mmPerS)} a second` : 'no limit'}
            reason={{
              why: 'Anything that moves faster across the picture smears within one exposure.',
              formula: 'c / (m t), across the picture',
              inputs: `c ${length(plan.coc_mm)}, m ${significant(plan.magnification, 3)}, t ${exposureText(light.exposure_s)}`,
              source: 'geometry',
            }}
          />
        </dl>
        <ul className={styles.lines}>
          <li>The fastest movement across the picture that one exposure does not smear: leaves, water, a swaying stalk.</li>
          <li>Nothing may move and stay moved for {durationText(still.duration_s)}, from the first frame to the last.</li>
          {moves && (
            <li>
              Meanwhile the sun moves {significant(still.sun_deg, 2)}° on; the shadow of a one-metre post moves up to {length(still.shadow_mm)}.
              {still.duration_s > 120 ? ' Wait for clouds or shade, or shoot fewer frames.' : ''}
            </li>
          )}
        </ul>
      </section>
    </div>
  )
})

function VerdictItem({ fits, text }: Load['verdicts'][number]) {
  return (
    <li className={fits ? styles.fits : styles.fails}>
      <strong>{fits ? 'enough' : 'short'}</strong> {text}
    </li>
  )
}
