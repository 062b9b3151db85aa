import { Transfer } from './transfer'

/** A clock that is set by hand. */
function clock() {
  let now_ms = 5000
  return { read: () => now_ms, pass: (ms: number) => (now_ms += ms) }
}

test('nothing is said of the pace until something is through', () => {
  const time = clock()
  const transfer = new Transfer(100e6, time.read)
  time.pass(3000)
  expect(transfer.pace).toBeUndefined()
})

test('the rate is what was done by the time it took, and the rest goes as fast', () => {
  const time = clock()
  const transfer = new Transfer(100e6, time.read)
  time.pass(2000)
  transfer.pass(20e6)
  expect(transfer.pace).toEqual({ rate_MBps: 10, left_s: 8 })
  time.pass(2000)
  transfer.pass(60e6)
  expect(transfer.pace).toEqual({ rate_MBps: 20, left_s: 1 })
  transfer.pass(20e6)
  expect(transfer.pace!.left_s).toBe(0)
})

test('a rest slows nothing down, however often it is asked for', () => {
  const time = clock()
  const transfer = new Transfer(100e6, time.read)
  time.pass(2000)
  transfer.pass(20e6)
  transfer.rest()
  time.pass(60_000)
  transfer.rest()
  expect(transfer.pace).toEqual({ rate_MBps: 10, left_s: 8 })
  transfer.goOn()
  transfer.goOn()
  time.pass(2000)
  transfer.pass(20e6)
  expect(transfer.pace).toEqual({ rate_MBps: 10, left_s: 6 })
})
