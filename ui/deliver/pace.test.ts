import { Pace } from './pace'

const dragged = (pace: Pace) => pace.sizeFor(true, false)

test('at rest all of it is shown; what is dragged at half the size', () => {
  const pace = new Pace()
  expect(pace.sizeFor(false, false)).toBe(0)
  expect(dragged(pace)).toBe(1)
})

test('where half the size takes too long a quarter is shown, from the first move on where the whole told so', () => {
  const [slow, told] = [new Pace(), new Pace()]
  slow.took(1, 31)
  expect(dragged(slow)).toBe(2)
  told.took(0, 130)
  expect(dragged(told)).toBe(2)
})

test('it does not go to and fro: half the size comes back only where it would surely be soon enough', () => {
  const pace = new Pace()
  pace.took(1, 31)
  // Half of it would take about 20 ms, which is neither too long nor soon.
  for (const took_ms of [5, 4, 6]) {
    pace.took(2, took_ms)
    expect(dragged(pace)).toBe(2)
  }
  pace.took(2, 2)
  expect(dragged(pace)).toBe(1)
})

test('what shows in fine detail only is never shown at a quarter', () => {
  const pace = new Pace()
  pace.took(1, 60)
  expect(pace.sizeFor(true, true)).toBe(1)
})
