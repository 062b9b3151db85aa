import { check, practiceTrySchema, type PracticeTry } from '@/schemas'
import { refusedWith, TestServer } from './testServer'

let server: TestServer
beforeEach(async () => {
  server = await TestServer.start()
})
afterEach(() => server.stop())

const tried: PracticeTry = { exercise: 'choose', level: 2, seed: 8, percent: 64, took_s: 30 }

test('tries are kept in the order in which they were made', async () => {
  const { practice } = server.context
  await practice.keep(tried)
  await practice.keep({ ...tried, exercise: 'byHand', percent: 90 })
  const all = await practice.all()
  expect(all.map(({ exercise, percent }) => [exercise, percent])).toEqual([
    ['choose', 64],
    ['byHand', 90],
  ])
  expect(Date.parse(all[0].created_at)).toBeLessThanOrEqual(Date.parse(all[1].created_at))
})

test.each([
  ['an exercise that is none', { exercise: 'golf' }, 'value.any.only'],
  ['a level that is none', { level: 4 }, 'value.any.only'],
  ['a mark above all', { percent: 101 }, 'value.number.max'],
  ['no mark', { percent: undefined }, 'value.any.required'],
])('%s is refused', (_, change, code) => {
  expect(() => check(practiceTrySchema, { ...tried, ...change })).toThrow(refusedWith(code))
})
