import Joi from 'joi'
import { AS_IT_IS } from '@/core/finish'
import { check, JOB_FILES, JOB_VERSION, jobFileSchema, type JobFile } from '.'
import { refusedAt } from './testRefusal'

const frames = [{ name: 'a.jpg', file: '/data/a.jpg' }]
const settings = { style: 'auto', bits: 16, crop: 'common', register: true, localWarp: 'whereMoved' }

/** The least that a job file of each kind holds. */
const LEAST: Record<JobFile['kind'], object> = {
  shoot: { scene: { scene: 'nib', positions_mm: [0, 1] }, out: '/out' },
  fuse: { frames, settings, outputs: { out: '/out.tif' } },
  inspect: { frames, registration: '/r.json', picture: '/p.tif', report: '/out.json' },
  needed: { frames, registration: '/r.json', settings, parts: [], dusty: false, report: '/out.json' },
  mend: { frames, registration: '/r.json', picture: '/p.tif', document: { edits: [] }, out: '/out.tif' },
  finish: { picture: '/p.tif', recipe: AS_IT_IS, out: '/out.tif' },
  take: { what: 'masks', picture: '/p.tif', out: '/out.zip' },
  survey: { frames, report: '/out.json' },
  split: { frames, report: '/out.json' },
  measure: { frames, facts: { pitch_mm: 1 }, report: '/out.json' },
  check: { files: [{ id: 1, file: '/a.jpg', sha256: 'ab'.repeat(32) }], report: '/out.json' },
  backup: { dataFolder: '/data', out: '/out.zip' },
  restore: { dataFolder: '/data', archive: '/in.zip' },
}
const kinds = Object.keys(JOB_FILES) as JobFile['kind'][]
const read = (kind: JobFile['kind'], value: object) => check<object>(Joi.object(JOB_FILES[kind]), value)

test('every kind of job has its file, and nothing else is one', () => {
  expect(Object.keys(LEAST).sort()).toEqual([...kinds].sort())
  for (const kind of kinds) expect(check(jobFileSchema, { version: JOB_VERSION, kind })).toMatchObject({ kind })
  expect(refusedAt(() => check(jobFileSchema, { version: JOB_VERSION, kind: 'dream' }))).toEqual(['kind', 'value.any.only'])
  expect(refusedAt(() => check(jobFileSchema, { version: JOB_VERSION + 1, kind: 'fuse' }))).toEqual(['version', 'value.number.max'])
  expect(refusedAt(() => check(jobFileSchema, { kind: 'fuse' }))).toEqual(['version', 'value.any.required'])
})

test.each(kinds)('a file of the kind %s holds what it needs', (kind) => {
  expect(read(kind, LEAST[kind])).toMatchObject(kind === 'shoot' ? { out: '/out' } : LEAST[kind])
})

test.each(kinds.flatMap((kind) => Object.keys(LEAST[kind]).map((fact) => [kind, fact] as const)))(
  'of the kind %s it cannot do without %s',
  (kind, fact) => {
    const { [fact]: _, ...rest } = LEAST[kind] as Record<string, unknown>
    expect(refusedAt(() => read(kind, rest))).toEqual([fact, 'value.any.required'])
  },
)

test.each(kinds)('what a file of the kind %s does not know is refused by name', (kind) => {
  expect(refusedAt(() => read(kind, { ...LEAST[kind], colour: 'red' }))).toEqual(['colour', 'value.object.unknown'])
})

test('frames have a name and a file each, raw ones how they are developed', () => {
  const raw = { file: '/data/a.dng', development: { multipliers: [2, 1, 1.5], headroom: 1.2 } }
  expect(read('survey', { frames: [{ id: 4, name: 'a.dng', file: '/made/a.tif', raw }], report: '/r.json' })).toMatchObject({ frames: [{ raw }] })
  expect(read('survey', { frames: [{ uid: 'u', name: 'a.jpg', file: '/a.jpg' }], report: '/r.json' })).toMatchObject({ frames: [{ uid: 'u' }] })
  const broken = (frame: object) => refusedAt(() => read('survey', { frames: [frame], report: '/r.json' }))
  expect(broken({ name: 'a.jpg' })).toEqual(['frames.0.file', 'value.any.required'])
  expect(broken({ name: '', file: '/a.jpg' })).toEqual(['frames.0.name', 'value.string.empty'])
  expect(broken({ name: 'a.dng', file: '/a.tif', raw: { file: '/a.dng' } })).toEqual(['frames.0.raw.development', 'value.any.required'])
})

test('a checksum is one, and a mover is known', () => {
  expect(refusedAt(() => read('check', { files: [{ id: 1, file: '/a', sha256: 'short' }], report: '/r' }))[0]).toBe('files.0.sha256')
  expect(refusedAt(() => read('survey', { frames, mover: 'balloon', report: '/r' }))).toEqual(['mover', 'value.any.only'])
  expect(refusedAt(() => read('fuse', { ...LEAST.fuse, pixel_mm: 0 }))).toEqual(['pixel_mm', 'value.number.greater'])
})
