'use client'

import { MOVERS } from '@/core/movers'
import { memo } from 'react'
import type { PlanRequest } from '@/core/plan'
import { nearestText, type PlanSheet, type SheetPlan } from '@/core/sheet'
import { apertureText, durationText, significant, storageText } from '@/core/units'
import { useUnits } from '../../units'
import styles from './answer.module.css'
import { Why } from './Why'

/** The figures of a plan, each with its reason. */
export const PlanNumbers = memo(function PlanNumbers({ planned, sheet }: { planned: SheetPlan; sheet: PlanSheet }) {
  const { plan, request } = planned
  const { length, system } = useUnits()
  const { optics } = request
  const { rawSize_MB } = request.camera
  const marked = optics.kind === 'lens' ? optics.fNumber : plan.workingFNumber
  const m = plan.magnification
  const attached = optics.kind === 'lens' && optics.attachment
  return (
    <dl className={styles.numbers}>
      <Why
        label="Frames"
        testId="frame-count"
        value={plan.frameCount}
        reason={{
          why: `As many slices as it takes to cover the subject without a gap.`,
          formula: plan.hyperfocal_mm
            ? 'the fewest slices that cover the range, evenly spaced in dioptres'
            : 'ceil((depth + extra in front and behind − D) / step) + 1',
          inputs: plan.hyperfocal_mm
            ? `hyperfocal distance ${length(plan.hyperfocal_mm)}`
            : `step ${length(plan.stride_mm)}, D ${length(plan.depthOfField_mm)}`,
          source: 'Ray, Applied Photographic Optics, 3rd ed. 2002',
        }}
      />
      {!plan.hyperfocal_mm && (
        <Why
          label="Step between frames"
          testId="stride"
          value={length(plan.stride_mm)}
          reason={{
            why: `How far the focus moves from one frame to the next. Longer, and a soft band would lie between two frames.`,
            formula: 'D (1 − overlap), rounded down to the mover',
            inputs: `D ${length(plan.depthOfField_mm)}, overlap asked ${significant(request.overlap * 100, 3)} %`,
            source: 'geometry',
          }}
        />
      )}
      <Why
        label="Overlap"
        value={`${significant(plan.overlap * 100, 3)} %`}
        reason={{
          why: 'How much of a slice its neighbour shows sharp as well. It takes up small errors of the rail or the hand.',
          formula: '1 − step / D',
          inputs: `asked for: at least ${significant(request.overlap * 100, 3)} %`,
          source: 'geometry',
        }}
      />
      <Why
        label={plan.hyperfocal_mm ? 'Hyperfocal distance' : 'Depth of field'}
        testId="depth-of-field"
        value={length(plan.hyperfocal_mm ?? plan.depthOfField_mm)}
        reason={{
          why: `${plan.hyperfocal_mm ? 'Focused there, everything from half that distance to infinity is sharp.' : 'How thick the part is that one frame shows sharp.'}`,
          formula: plan.hyperfocal_mm ? 'H = f² / (N b) + f' : 'D = max(2 b N_w / m², λ / NA²), b = √(c² − d²)',
          inputs: `c ${length(plan.coc_mm)}, d ${length(plan.diffraction_mm)}, m ${significant(m, 3)}, N_w ${significant(plan.workingFNumber, 3)}`,
          source: 'Kingslake, Optics in Photography, 1992; Inoué & Spring, Video Microscopy, 1997',
        }}
      />
      <Why
        label="Effective f-number"
        testId="working-aperture"
        value={apertureText(plan.workingFNumber)}
        reason={{
          why: `Close up the lens stands farther from the sensor, so its opening looks smaller from there: depth, diffraction and light are those of this f-number, not of the one marked on the lens.`,
          formula: 'N_w = N (1 + m / P)',
          inputs: attached
            ? 'an attached lens takes no light'
            : `N ${significant(marked, 3)}, m ${significant(m, 3)}, P ${optics.kind === 'lens' ? significant(optics.pupilRatio, 3) : 1}`,
          source: 'Allen & Triantaphillidou, The Manual of Photography, 10th ed. 2011',
        }}
      />
      <Why label="Allowed blur" value={length(plan.coc_mm)} reason={allowedBlur(request, length)} />
      <Why
        label="Diffraction blur"
        value={length(plan.diffraction_mm)}
        reason={{
          why: 'Light spreads at a small opening: a point comes out this wide however well it is focused.',
          formula: 'd = 1.22 λ N_w',
          inputs: `λ ${request.wavelength_nm} nm`,
          source: 'Born & Wolf, Principles of Optics',
        }}
      />
      <Why
        label="Cropped at the edges"
        value={`${significant(plan.edgeLoss_percent, 2)} %`}
        reason={{
          why: `The picture’s scale changes a little as the focus moves. Once the frames are made to fit, this much at the edges is not in all of them: leave room there.`,
          formula: MOVERS[request.mover.kind].edgeLossFormula,
          inputs: 'of the picture’s width, composing at the first frame',
          source: 'Ray, Applied Photographic Optics, 3rd ed. 2002',
        }}
      />
      <Why
        label="Magnification"
        value={`${significant(m, 3)} : 1`}
        reason={{
          why: `How large the subject lies on the sensor: at 1 : 1, ten millimetres of it are ten millimetres there.`,
          formula: plan.hyperfocal_mm ? 'm = f / (s − f) at the nearest point' : MAGNIFICATION,
          inputs: `in the picture, image over object`,
          source: 'Ray, Applied Photographic Optics, 3rd ed. 2002',
        }}
      />
      <Why
        label={plan.hyperfocal_mm ? 'Nearest point' : 'Near edge'}
        testId="working-distance"
        value={nearestText(planned, sheet, system, true)}
        reason={{
          why: 'Where the nearest part of the subject stands. Light and subject must fit in what is free before the lens.',
          formula: 'f (2 + m + 1/m) from the sensor, and what the lens differs by at its nearest focus',
          inputs: `nearest focus and lengths of ${planned.gear.lens.name} and ${planned.gear.body.name}, from the kit`,
          source: 'Kingslake, Optics in Photography, 1992',
        }}
      />
      <Why
        label="Time"
        testId="duration"
        value={durationText(plan.duration_s)}
        reason={{
          why: `All frames one after the other, with what hands, settling, exposure and writing take. So long the subject has to keep still.`,
          formula: 'frames × (move + filter + settle + delay + exposures + max(interval, recycling) + write)',
          inputs: timeInputs(request),
          source: 'the kit’s own figures',
        }}
      />
      <Why
        label="Storage"
        testId="storage"
        value={storageText(plan.storage_MB)}
        reason={{
          why: `Room on the card for the whole series.`,
          formula: 'frames × raw file',
          inputs: `${plan.frameCount} × ${request.timing.exposuresPerFrame > 1 ? `${request.timing.exposuresPerFrame} × ` : ''}${rawSize_MB} MB`,
          source: 'the body’s own figure',
        }}
      />
    </dl>
  )
})

const MAGNIFICATION =
  'given, or: m₀ + e/f with tubes; f/f_c behind a close-up lens; (register + e)/f reversed; f_rear/f_front face to face; sensor width over ruler'

/** Where the allowed blur comes from. */
function allowedBlur({ sharpness, camera }: PlanRequest, length: (mm: number) => string) {
  const why = 'A point that comes out no wider than this on the sensor counts as sharp. Everything else follows from it.'
  if (sharpness.kind === 'coc') return { why, formula: 'given', inputs: `c ${length(sharpness.coc_mm)}`, source: 'you' }
  if (sharpness.kind === 'pixels') {
    const pitch = length(camera.sensorWidth_mm / camera.pixelsWide)
    return { why, formula: 'pixels × pixel pitch', inputs: `${significant(sharpness.count, 3)} px of ${pitch}`, source: 'geometry' }
  }
  return {
    why,
    formula: 'c = viewing distance × tan 1′ / enlargement',
    inputs: `${length(sharpness.width_mm)} wide, seen from ${length(sharpness.viewingDistance_mm)}`,
    source: 'Ray, Applied Photographic Optics, 3rd ed. 2002',
  }
}

function timeInputs({ timing }: PlanRequest): string {
  const { move_s, filter_s, settle_s, delay_s, exposure_s, exposuresPerFrame, interval_s, recycling_s, write_s } = timing
  const s = (value: number) => significant(value, 3)
  const pause = Math.max(interval_s, recycling_s * exposuresPerFrame)
  return `${s(move_s)} + ${s(filter_s)} + ${s(settle_s)} + ${s(delay_s)} + ${s(exposure_s)}${exposuresPerFrame > 1 ? ` × ${exposuresPerFrame}` : ''} + ${s(pause)} + ${s(write_s)} s`
}
