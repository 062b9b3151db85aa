'use client'

import type { Plan, PlanRequest } from '@/core/plan'
import { apertureText, lengthText, significant, storageText } from '../units'
import styles from './plan.module.css'
import { Why } from './Why'

/** The figures of a plan, each with its reason. */
export function PlanNumbers({ plan, request }: { plan: Plan; request: PlanRequest }) {
  const { optics } = request
  const { rawSize_MB } = request.camera
  const marked = optics.kind === 'lens' ? optics.fNumber : plan.workingFNumber
  const m = plan.magnification
  return (
    <dl className={styles.numbers}>
      <Why
        label="Frames"
        testId="frame-count"
        value={plan.frameCount}
        reason={{
          formula: plan.hyperfocal_mm
            ? 'the fewest slices that cover the range, even in dioptres'
            : 'ceil((depth + lead-in + run-out − D) / stride) + 1',
          inputs: plan.hyperfocal_mm
            ? `hyperfocal distance ${lengthText(plan.hyperfocal_mm)}`
            : `stride ${lengthText(plan.stride_mm)}, D ${lengthText(plan.depthOfField_mm)}`,
          source: 'Ray, Applied Photographic Optics, 3rd ed. 2002',
        }}
      />
      {!plan.hyperfocal_mm && (
        <Why
          label="Stride"
          testId="stride"
          value={lengthText(plan.stride_mm)}
          reason={{
            formula: 'D (1 − overlap), rounded down to the mover',
            inputs: `D ${lengthText(plan.depthOfField_mm)}, overlap asked ${significant(request.overlap * 100, 3)} %`,
            source: 'geometry',
          }}
        />
      )}
      <Why
        label="Overlap that results"
        value={`${significant(plan.overlap * 100, 3)} %`}
        reason={{ formula: '1 − stride / D', inputs: `asked for: at least ${significant(request.overlap * 100, 3)} %`, source: 'geometry' }}
      />
      <Why
        label={plan.hyperfocal_mm ? 'Hyperfocal distance' : 'Depth of field'}
        testId="depth-of-field"
        value={lengthText(plan.hyperfocal_mm ?? plan.depthOfField_mm)}
        reason={{
          formula: plan.hyperfocal_mm ? 'H = f² / (N b) + f' : 'D = max(2 b N_w / m², λ / NA²), b = √(c² − d²)',
          inputs: `c ${lengthText(plan.coc_mm)}, d ${lengthText(plan.diffraction_mm)}, m ${significant(m, 3)}, N_w ${significant(plan.workingFNumber, 3)}`,
          source: 'Kingslake, Optics in Photography, 1992; Inoué & Spring, Video Microscopy, 1997',
        }}
      />
      <Why
        label="Working aperture"
        testId="working-aperture"
        value={apertureText(plan.workingFNumber)}
        reason={{
          formula: 'N_w = N (1 + m / P)',
          inputs: `N ${significant(marked, 3)}, m ${significant(m, 3)}, P ${optics.kind === 'lens' ? optics.pupilRatio : 1}`,
          source: 'Allen & Triantaphillidou, The Manual of Photography, 10th ed. 2011',
        }}
      />
      <Why
        label="Allowed blur"
        value={lengthText(plan.coc_mm)}
        reason={{
          formula: 'pixels × pixel pitch',
          inputs: `${request.sharpness.kind === 'pixels' ? request.sharpness.count : ''} px of ${lengthText(request.camera.sensorWidth_mm / request.camera.pixelsWide)}`,
          source: 'geometry',
        }}
      />
      <Why
        label="Diffraction blur"
        value={lengthText(plan.diffraction_mm)}
        reason={{ formula: 'd = 1.22 λ N_w', inputs: `λ ${request.wavelength_nm} nm`, source: 'Born & Wolf, Principles of Optics' }}
      />
      <Why
        label="Edge lost to registration"
        value={`${significant(plan.edgeLoss_percent, 2)} %`}
        reason={{
          formula: request.mover.kind === 'rail' ? '1 − z / (z + travel), z from the entrance pupil' : '1 − v_far / v_near',
          inputs: 'of the picture’s width, composing at the first frame',
          source: 'Ray, Applied Photographic Optics, 3rd ed. 2002',
        }}
      />
      <Why
        label="Storage"
        testId="storage"
        value={storageText(plan.storage_MB)}
        reason={{ formula: 'frames × raw file', inputs: `${plan.frameCount} × ${rawSize_MB} MB`, source: 'the body’s own figure' }}
      />
    </dl>
  )
}
