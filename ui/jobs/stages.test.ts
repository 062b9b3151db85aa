import { JOB_FILES, type JobDetail } from '@/schemas'
import { JOB_NAMES, percentOf, stageText } from './stages'

const job = (change: object) => ({ kind: 'fuse', state: 'running', progress: null, ...change }) as unknown as JobDetail
const at = (stage: string, frame: number, of: number) => ({ progress: { stage, frame, of } })

test('every kind of job has a name, of a few plain words', () => {
  expect(Object.keys(JOB_NAMES).sort()).toEqual(Object.keys(JOB_FILES).sort())
  for (const name of Object.values(JOB_NAMES)) expect(name).toMatch(/^[A-Z][a-z ]{4,32}$/)
})

describe('how far a job is', () => {
  test('is said by frames and files where it goes through them', () => {
    expect(stageText(job({ state: 'queued' }))).toBe('waiting for another job')
    expect(stageText(job({}))).toBe('starting')
    expect(stageText(job(at('register', 3, 18)))).toBe('registering frame 3 of 18')
    expect(stageText(job({ kind: 'backup', ...at('verify', 2, 9) }))).toBe('checking the backup, file 2 of 9')
    expect(stageText(job(at('encode', 0, 1)))).toBe('writing the picture')
  })

  test('goes up through a whole render, and never back', () => {
    const way = [at('register', 0, 10), at('register', 5, 10), at('register', 10, 10), at('fuse', 1, 10), at('fuse', 10, 10), at('encode', 0, 1)].map(
      (progress) => percentOf(job(progress)),
    )
    expect(way).toEqual([...way].sort((a, b) => a - b))
    expect(way[0]).toBe(0)
    expect(way.at(-1)).toBeGreaterThan(95)
    for (const percent of way) expect(percent).toBeLessThanOrEqual(100)
  })

  test('raw frames that are developed first are counted for themselves', () => {
    expect(percentOf(job(at('develop', 2, 4)))).toBe(50)
  })

  test('of other jobs is the part of their frames', () => {
    expect(percentOf(job({ kind: 'survey', ...at('survey', 3, 12) }))).toBe(25)
    expect(percentOf(job({ kind: 'survey', ...at('survey', 0, 0) }))).toBe(0)
    expect(percentOf(job({ kind: 'backup' }))).toBe(0)
  })
})
