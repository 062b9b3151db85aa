import type { Fault } from '@/core/simulate'
import { shoot, type DemoShoot } from './scenario'

/** Where each shoot of the past year lies as an archive of its own, named by its day: hosts and mail leave small files whole. */
export const YEAR_FOLDER = 'demo/year'

/** A shoot of the studio's past year, and what its photographers noted of it. */
export interface PastShoot {
  at: string
  shoot: DemoShoot
  faults: Fault['kind'][]
  /** How it was fused; a run that was not stays as it was shot. */
  styles: string[]
  stars: number
  note: string
  tags: string[]
}

type Change = Parameters<typeof shoot>[4]

function past(at: string, title: string, scene: string, change: Change, rest: Partial<PastShoot>): PastShoot {
  return {
    at,
    shoot: shoot(title, '', scene, true, { ...FOR_THE_FILE_CARD, ...change }),
    faults: [],
    styles: ['auto'],
    stars: 3,
    note: '',
    tags: [],
    ...rest,
  }
}

/** Pictures for the file card are printed small. */
const FOR_THE_FILE_CARD = { blur_pixels: 8 } as const
const fossil = { depth_mm: 9, width_mm: 32, leadIn_slices: 0.5, runOut_slices: 0.5 } as const
const nib = { magnification: 0.5, depth_mm: 34, width_mm: 60, mover: 'ring', background_mm: 60, leadIn_slices: 0.5, runOut_slices: 0.5 } as const
const brush = { depth_mm: 8, width_mm: 32, mover: 'rail', leadIn_slices: 1, runOut_slices: 0.5 } as const

/** The oldest first. At the beginning they shoot far too densely, to be safe; the logbook tells them so. */
export const PAST_YEAR: PastShoot[] = [
  past(
    '2025-12-04T10:20:00.000Z',
    'Ribbed coil fossil, drawer C 2',
    'fossil',
    { ...fossil, overlap_percent: 70 },
    {
      note: 'First try with the bench rail. Steps as small as we dared.',
      tags: ['fossils', 'rail'],
    },
  ),
  past('2025-12-18T14:05:00.000Z', 'Fountain-pen nib, writing sample 3', 'nib', { ...nib, overlap_percent: 65 }, { tags: ['pens'], stars: 4 }),
  past(
    '2026-01-15T09:40:00.000Z',
    'Ribbed coil fossil, drawer C 5',
    'fossil',
    { ...fossil, overlap_percent: 60 },
    {
      faults: ['noFlash'],
      note: 'One frame dark: the lamp flickered when the heating came on. Left out.',
      tags: ['fossils'],
      stars: 2,
    },
  ),
  past(
    '2026-02-03T15:30:00.000Z',
    'Sable brush, conservation file 9',
    'bristles',
    { ...brush, overlap_percent: 50 },
    {
      styles: ['terrain', 'lace'],
      note: 'Crossing hairs: lace is the better one.',
      tags: ['tools'],
      stars: 5,
    },
  ),
  past(
    '2026-02-19T11:10:00.000Z',
    'Fountain-pen nib, writing sample 5',
    'nib',
    { ...nib, overlap_percent: 50 },
    {
      faults: ['bump'],
      note: 'Someone leaned on the table. Shot again the week after.',
      styles: [],
      tags: ['pens', 'lost'],
      stars: 1,
    },
  ),
  past('2026-02-26T10:00:00.000Z', 'Fountain-pen nib, writing sample 5, again', 'nib', { ...nib, overlap_percent: 50 }, { tags: ['pens'], stars: 4 }),
  past(
    '2026-04-09T13:45:00.000Z',
    'Ribbed coil fossil, drawer C 9',
    'fossil',
    { ...fossil, overlap_percent: 40 },
    {
      note: 'Every second frame would have done last time, so fewer now.',
      tags: ['fossils', 'rail'],
      stars: 4,
    },
  ),
  past(
    '2026-05-21T08:30:00.000Z',
    'Sable brush, conservation file 11',
    'bristles',
    { ...brush, overlap_percent: 35 },
    { faults: ['dust'], tags: ['tools', 'dust'], note: 'Specks on the sensor. Cleaned it afterwards.' },
  ),
  past(
    '2026-06-11T16:20:00.000Z',
    'Ribbed coil fossil, drawer C 12',
    'fossil',
    { ...fossil, overlap_percent: 30 },
    {
      faults: ['endShort'],
      note: 'Battery ended. The far stone is soft; kept for the file card only.',
      tags: ['fossils', 'lost'],
      stars: 1,
    },
  ),
  past('2026-08-13T09:15:00.000Z', 'Fountain-pen nib, writing sample 8', 'nib', { ...nib, overlap_percent: 25 }, { tags: ['pens'], stars: 5 }),
  past(
    '2026-09-24T10:50:00.000Z',
    'Ribbed coil fossil, drawer C 15',
    'fossil',
    { ...fossil, overlap_percent: 20 },
    {
      tags: ['fossils', 'rail'],
      stars: 5,
      note: 'Half the frames of December, and nobody can tell.',
    },
  ),
  past(
    '2026-10-22T14:40:00.000Z',
    'Sable brush, conservation file 14',
    'bristles',
    { ...brush, overlap_percent: 20 },
    { styles: ['lace'], tags: ['tools'], stars: 4 },
  ),
]
