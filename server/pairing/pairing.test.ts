import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { lanOf, Pairing } from '.'

let folder: string
let now_ms: number
const pairing = () => new Pairing(folder, { port: 3443, addresses: ['192.168.7.5'] }, () => now_ms)
beforeEach(async () => {
  folder = await mkdtemp(path.join(tmpdir(), 'pairing-'))
  now_ms = Date.now()
})
afterEach(() => rm(folder, { recursive: true }))

const other = (code: string) => String((Number(code) + 1) % 1e8).padStart(8, '0')

test('a code is good once, for five minutes, and only the newest', async () => {
  const made = pairing()
  const [{ code: old }, { code, until }] = [await made.offer(), await made.offer()]
  expect([code.length, Date.parse(until) - now_ms]).toEqual([8, 300_000])
  await expect(made.claim(old === code ? other(code) : old, 'Phone')).rejects.toMatchObject({ code: 'pairing.wrongCode' })
  await made.claim(code, 'Phone')
  await expect(made.claim(code, 'Phone')).rejects.toMatchObject({ code: 'pairing.noCode' })
  const { code: late } = await made.offer()
  now_ms += 300_001
  await expect(made.claim(late, 'Phone')).rejects.toMatchObject({ code: 'pairing.noCode' })
})

test('a wrong code takes a second, one after the other, and five of them end it', async () => {
  const made = pairing()
  const { code } = await made.offer()
  const start = performance.now()
  const ends = await Promise.all(Array.from({ length: 5 }, () => made.claim(other(code), 'Phone').catch((error: { code: string }) => error.code)))
  expect(ends).toEqual([...Array<string>(4).fill('pairing.wrongCode'), 'pairing.noCode'])
  expect(performance.now() - start).toBeGreaterThan(4900)
  await expect(made.claim(code, 'Phone')).rejects.toMatchObject({ code: 'pairing.noCode' })
})

test('what is kept outlives a restart and holds no token; a device that pairs again is listed once', async () => {
  const first = pairing()
  const token = await first.claim((await first.offer()).code, 'Phone')
  const kept = await readFile(path.join(folder, 'devices.json'), 'utf8')
  expect(kept).not.toContain(token)
  const second = pairing()
  expect(await second.deviceOf(token)).toMatchObject({ name: 'Phone' })
  const newer = await second.claim((await second.offer()).code, 'Phone, again', token)
  expect((await second.list()).map(({ name }) => name)).toEqual(['Phone, again'])
  expect([await second.deviceOf(token), (await second.deviceOf(newer))?.name]).toEqual([undefined, 'Phone, again'])
  // `seen_at` is accurate to a minute.
  now_ms += 61_000
  await second.deviceOf(newer)
  expect(Date.parse((await pairing().list())[0].seen_at)).toBe(now_ms)
})

test('no code is given where other devices are not let in, and a list that is damaged lets nobody in', async () => {
  await expect(new Pairing(folder, undefined).offer()).rejects.toMatchObject({ code: 'pairing.off' })
  await writeFile(path.join(folder, 'devices.json'), '[{"id":"x"}]')
  await expect(pairing().list()).rejects.toThrow()
})

test('where other devices come in is read from the setting', () => {
  expect(lanOf(undefined)).toBeUndefined()
  expect(lanOf('')).toBeUndefined()
  expect(lanOf('yes')).toBeUndefined()
  expect(lanOf('127.0.0.2:3444')).toEqual({ port: 3444, addresses: ['127.0.0.2'] })
  expect(lanOf('3443')!.addresses).not.toContain('127.0.0.1')
})

test('a device that is revoked in the instant in which it is seen stays revoked, and so does one that is seen while another pairs', async () => {
  const made = pairing()
  for (let turn = 0; turn < 20; turn++) {
    const token = await made.claim((await made.offer()).code, `Phone ${turn}`)
    const [{ id }] = await made.list()
    now_ms += 61_000
    await Promise.all([made.deviceOf(token), made.revoke(id), made.deviceOf(token)])
    expect(await made.deviceOf(token)).toBeUndefined()
  }
  expect(await made.list()).toEqual([])
  expect(await pairing().list()).toEqual([])
})
