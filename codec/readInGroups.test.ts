import { readInGroups } from '.'

const files = Array.from({ length: 11 }, (_, k) => `f_${k}.jpg`)

test('gives what each file holds in their order, however long each takes, and reads few at once', async () => {
  let [reading, most] = [0, 0]
  const read = async (file: string) => {
    most = Math.max(most, ++reading)
    await new Promise((done) => setTimeout(done, (file.length * 7 + file.charCodeAt(2)) % 5))
    reading--
    return file.toUpperCase()
  }
  const found: string[] = []
  for await (const each of readInGroups(files, read)) found.push(each)
  expect(found).toEqual(files.map((file) => file.toUpperCase()))
  expect(most).toBeLessThanOrEqual(4)
})

test('a file that cannot be read ends it with what is wrong, and no file after its group is touched', async () => {
  const touched: string[] = []
  const read = (file: string) => {
    touched.push(file)
    return file === files[1] ? Promise.reject(new Error(`${file} is damaged`)) : Promise.resolve(file)
  }
  const all = async () => {
    const found: string[] = []
    for await (const each of readInGroups(files, read)) found.push(each)
    return found
  }
  await expect(all()).rejects.toThrow('f_1.jpg is damaged')
  expect(touched.length).toBeLessThanOrEqual(4)
})

test('the next group is read while the one before it is worked on', async () => {
  const begun: string[] = []
  const read = (file: string) => {
    begun.push(file)
    return Promise.resolve(file)
  }
  const reading = readInGroups(files, read)
  const { value: first } = await reading.next()
  const group = begun.length / 2
  expect(first).toBe(files[0])
  expect(begun).toEqual(files.slice(0, 2 * group))
  // Whoever stops there is not told of a file that is damaged further on.
  await reading.return(undefined)
  expect(begun).toHaveLength(2 * group)
})
