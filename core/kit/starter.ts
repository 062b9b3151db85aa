import type { Kit } from './items'

/** The studio's made-up kit; a new database starts with it. */
export const STARTER_KIT: Kit = {
  bodies: [
    {
      name: 'Body A, 24 MP full frame',
      sensorWidth_mm: 36,
      sensorHeight_mm: 24,
      pixelsWide: 6000,
      rawSize_MB: 30,
      register_mm: 20,
      write_s: 1,
      framesPerCharge: 600,
      card_GB: 64,
      bracketSteps: 10,
      bracketMost: 200,
    },
    {
      name: 'Body B, 45 MP full frame',
      sensorWidth_mm: 36,
      sensorHeight_mm: 24,
      pixelsWide: 8200,
      rawSize_MB: 55,
      register_mm: 18,
      write_s: 1.4,
      framesPerCharge: 420,
      card_GB: 128,
      shiftExposures: 4,
      shiftFiner: 2,
    },
    {
      name: 'Body C, 26 MP, 23.5 mm sensor',
      sensorWidth_mm: 23.5,
      sensorHeight_mm: 15.7,
      pixelsWide: 6240,
      rawSize_MB: 33,
      register_mm: 18,
      write_s: 0.8,
      framesPerCharge: 500,
      card_GB: 64,
    },
  ],
  lenses: [
    lens('Macro 100 mm', 100, 1, [2.8, 32], 5.6, 309, 1, 125),
    lens('Macro 60 mm', 60, 0.9, [2.8, 22], 5.6, 219, 1, 90),
    { ...lens('Wide 24 mm', 24, 1, [2, 22], 5.6, 240, 0.14, 80), scaleMarks: '0.25 0.3 0.4 0.5 0.7 1 2 ∞' },
    lens('Short 50 mm', 50, 0.9, [1.8, 16], 5.6, 450, 0.15, 55),
  ],
  attachments: [
    { name: 'Tube 12 mm', kind: 'tube', extension_mm: 12 },
    { name: 'Tube 20 mm', kind: 'tube', extension_mm: 20 },
    { name: 'Tube 36 mm', kind: 'tube', extension_mm: 36 },
    { name: 'Bellows', kind: 'bellows', shortest_mm: 40, longest_mm: 150 },
    { name: 'Close-up lens, 5 dioptres', kind: 'closeUp', focalLength_mm: 200 },
    { name: 'Reversing ring', kind: 'reverser', extension_mm: 6 },
    { name: 'Objective 5 ×', kind: 'objective', designMagnification: 5, designTube_mm: 200, numericalAperture: 0.14, workingDistance_mm: 34 },
    { name: 'Objective 10 ×', kind: 'objective', designMagnification: 10, designTube_mm: 200, numericalAperture: 0.25, workingDistance_mm: 18 },
  ],
  rails: [
    { name: 'Bench rail', kind: 'dial', pitch_mm: 0.5, marksPerTurn: 50, length_mm: 100, backlash_mm: 0.1, settle_s: 2 },
    { name: 'Field rail, ruler only', kind: 'ruler', division_mm: 1, length_mm: 150, backlash_mm: 0.5, settle_s: 3 },
    {
      name: 'Motor rail',
      kind: 'motor',
      pitch_mm: 1,
      stepsPerTurn: 200,
      microsteps: 16,
      feed_mmPerMin: 60,
      length_mm: 80,
      backlash_mm: 0.02,
      settle_s: 1,
    },
  ],
  lights: [
    { name: 'Daylight', kind: 'daylight' },
    { name: 'Two lamps', kind: 'lamp' },
    { name: 'Studio flash', kind: 'flash', recycling_s: 1.5, popsPerCharge: 300 },
  ],
  calibrations: [
    {
      name: 'Macro 100 mm at half life size',
      kind: 'step',
      body: 'Body A, 24 MP full frame',
      lens: 'Macro 100 mm',
      fNumber: 8,
      magnification: 0.5,
      step: 2,
      stride_mm: 0.62,
    },
  ],
}

function lens(
  name: string,
  focalLength_mm: number,
  pupilRatio: number,
  [widestFNumber, smallestFNumber]: [number, number],
  sharpestFNumber: number,
  nearest_mm: number,
  mostMagnification: number,
  length_mm: number,
): Kit['lenses'][number] {
  return { name, focalLength_mm, pupilRatio, widestFNumber, smallestFNumber, sharpestFNumber, nearest_mm, mostMagnification, length_mm }
}
