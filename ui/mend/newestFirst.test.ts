import { NewestFirst } from './newestFirst'

/** Work that ends when it is told to, and tells when it begins. */
function works() {
  const begun: string[] = []
  const ends = new Map<string, () => void>()
  const work = (name: string) => () => new Promise<string>((resolve) => (begun.push(name), ends.set(name, () => resolve(name)))) // prettier-ignore
  const end = async (name: string) => {
    ends.get(name)!()
    await new Promise((resolve) => setTimeout(resolve, 0))
  }
  return { begun, work, end }
}

test('so many are done at once, and of those that wait the newest comes first', async () => {
  const { begun, work, end } = works()
  const queue = new NewestFirst(2)
  const answers = ['a', 'b', 'c', 'd'].map((name) => queue.add(name, work(name)))
  expect(begun).toEqual(['a', 'b'])
  await end('a')
  await end('b')
  expect(begun).toEqual(['a', 'b', 'd', 'c'])
  await end('c')
  await end('d')
  expect(await Promise.all(answers)).toEqual(['a', 'b', 'c', 'd'])
})

test('what is asked for again is answered as it was asked for last, whether the first waits or is being done', async () => {
  const { begun, work, end } = works()
  const queue = new NewestFirst(1)
  const [doing, waiting] = [queue.add('doing', work('doing, first')), queue.add('waiting', work('waiting, first'))]
  const [doingAgain, waitingAgain] = [queue.add('doing', work('doing, last')), queue.add('waiting', work('waiting, last'))]
  await end('doing, first')
  await end('waiting, last')
  await end('doing, last')
  expect(await Promise.all([doing, waiting, doingAgain, waitingAgain])).toEqual([undefined, undefined, 'doing, last', 'waiting, last'])
  // What is no longer wanted is not even begun.
  expect(begun).toEqual(['doing, first', 'waiting, last', 'doing, last'])
})
