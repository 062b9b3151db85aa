'use client'

import { MOVERS } from '@/core/movers'
import { memo } from 'react'
import type { Plan, PlanRequest } from '@/core/plan'
import { apertureText, durationText, significant, storageText } from '@/core/units'
import { useUnits } from '../../units'
import styles from './answer.module.css'
import { Why } from './Why'

/** The figures of a plan, each with its reason. */
export const PlanNumbers = memo(function PlanNumbers({ plan, request }: { plan: Plan; request: PlanRequest }) {
  const { length } = useUnits()
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
          formula: plan.hyperfocal_mm
            ? 'the fewest slices that cover the range, evenly spaced in dioptres'
            : 'ceil((depth + lead-in + run-out − D) / stride) + 1',
          inputs: plan.hyperfocal_mm
            ? `hyperfocal distance ${length(plan.hyperfocal_mm)}`
            : `stride ${length(plan.stride_mm)}, D ${length(plan.depthOfField_mm)}`,
          source: 'Ray, Applied Photographic Optics, 3rd ed. 2002',
        }}
      />
      {!plan.hyperfocal_mm && (
        <Why
          label="Stride"
          testId="stride"
          value={length(plan.stride_mm)}
          reason={{
            formula: 'D (1 − overlap), rounded down to the mover',
            inputs: `D ${length(plan.depthOfField_mm)}, overlap asked ${significant(request.overlap * 100, 3)} %`,
            source: 'geometry',
          }}
        />
      )}
      <Why
        label="Resulting overlap"
        value={`${significant(plan.overlap * 100, 3)} %`}
        reason={{ formula: '1 − stride / D', inputs: `asked for: at least ${significant(request.overlap * 100, 3)} %`, source: 'geometry' }}
      />
      <Why
        label={plan.hyperfocal_mm ? 'Hyperfocal distance' : 'Depth of field'}
        testId="depth-of-field"
        value={length(plan.hyperfocal_mm ?? plan.depthOfField_mm)}
        reason={{
          formula: plan.hyperfocal_mm ? 'H = f² / (N b) + f' : 'D = max(2 b N_w / m², λ / NA²), b = √(c² − d²)',
          inputs: `c ${length(plan.coc_mm)}, d ${length(plan.diffraction_mm)}, m ${significant(m, 3)}, N_w ${significant(plan.workingFNumber, 3)}`,
          source: 'Kingslake, Optics in Photography, 1992; Inoué & Spring, Video Microscopy, 1997',
        }}
      />
      <Why
        label="Working aperture"
        testId="working-aperture"
        value={apertureText(plan.workingFNumber)}
        reason={{
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
        reason={{ formula: 'd = 1.22 λ N_w', inputs: `λ ${request.wavelength_nm} nm`, source: 'Born & Wolf, Principles of Optics' }}
      />
      <Why
        label="Edge cropped by registration"
        value={`${significant(plan.edgeLoss_percent, 2)} %`}
        reason={{
          formula: MOVERS[request.mover.kind].edgeLossFormula,
          inputs: 'of the picture’s width, composing at the first frame',
          source: 'Ray, Applied Photographic Optics, 3rd ed. 2002',
        }}
      />
      <Why
        label="Magnification"
        value={`${significant(m, 3)} : 1`}
        reason={{
          formula: plan.hyperfocal_mm ? 'm = f / (s − f) at the nearest point' : MAGNIFICATION,
          inputs: `in the picture, image over object`,
          source: 'Ray, Applied Photographic Optics, 3rd ed. 2002',
        }}
      />
      <Why
        label="Nearest point from the lens"
        testId="working-distance"
        value={length(plan.workingDistance_mm)}
        reason={{
          formula: 's = f (1 + 1/m), from the front principal plane',
          inputs: 'thin lens; light and subject must fit in it',
          source: 'Kingslake, Optics in Photography, 1992',
        }}
      />
      <Why
        label="Time"
        testId="duration"
        value={durationText(plan.duration_s)}
        reason={{
          formula: 'frames × (settle + delay + exposures + max(interval, recycling) + write)',
          inputs: timeInputs(request),
          source: 'the kit’s own figures',
        }}
      />
      <Why
        label="Storage"
        testId="storage"
        value={storageText(plan.storage_MB)}
        reason={{
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
  if (sharpness.kind === 'coc') return { formula: 'given', inputs: `c ${length(sharpness.coc_mm)}`, source: 'you' }
  if (sharpness.kind === 'pixels') {
    const pitch = length(camera.sensorWidth_mm / camera.pixelsWide)
    return { formula: 'pixels × pixel pitch', inputs: `${significant(sharpness.count, 3)} px of ${pitch}`, source: 'geometry' }
  }
  return {
    formula: 'c = viewing distance × tan 1′ / enlargement',
    inputs: `${length(sharpness.width_mm)} wide, seen from ${length(sharpness.viewingDistance_mm)}`,
    source: 'Ray, Applied Photographic Optics, 3rd ed. 2002',
  }
}

function timeInputs({ timing }: PlanRequest): string {
  const { settle_s, delay_s, exposure_s, exposuresPerFrame, interval_s, recycling_s, write_s } = timing
  const s = (value: number) => significant(value, 3)
  const pause = Math.max(interval_s, recycling_s * exposuresPerFrame)
  return `${s(settle_s)} + ${s(delay_s)} + ${s(exposure_s)}${exposuresPerFrame > 1 ? ` × ${exposuresPerFrame}` : ''} + ${s(pause)} + ${s(write_s)} s`
}
