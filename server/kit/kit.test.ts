import { STARTER_KIT } from '@/core/kit'
import { TestServer } from '../testServer'

let server: TestServer
beforeEach(async () => {
  server = await TestServer.start()
})
afterEach(() => server.stop())

const lamp = { name: 'Ring lamp', kind: 'lamp' as const }

test('a new database starts with the made-up kit, and an opened one keeps its own', async () => {
  expect(await server.context.kit.all()).toEqual(STARTER_KIT)
  await server.context.kit.remove('lights', 'Daylight')
  const again = await server.open()
  expect((await again.kit.all()).lights.map(({ name }) => name)).toEqual(['Two lamps', 'Studio flash'])
})

test('items are added, changed and renamed in their place', async () => {
  const { kit } = server.context
  await kit.put('lights', lamp)
  await kit.put('lights', { name: 'Skylight', kind: 'daylight' }, 'Daylight')
  expect((await kit.all()).lights.map(({ name }) => name)).toEqual(['Skylight', 'Two lamps', 'Studio flash', 'Ring lamp'])
})

test('a name that is taken, or an item that is gone, is said and nothing changes', async () => {
  const { kit } = server.context
  await expect(kit.put('lights', { name: 'Two lamps', kind: 'lamp' })).rejects.toThrow('already')
  await expect(kit.put('lights', { name: 'Two lamps', kind: 'lamp' }, 'Daylight')).rejects.toThrow('already')
  await expect(kit.put('lights', lamp, 'Candle')).rejects.toThrow('removed meanwhile')
  await expect(kit.remove('lights', 'Candle')).rejects.toThrow('removed meanwhile')
  expect(await kit.all()).toEqual(STARTER_KIT)
})

test('an imported kit replaces items of the same name and leaves the others', async () => {
  const { kit } = server.context
  const none = { bodies: [], lenses: [], attachments: [], rails: [], calibrations: [] }
  expect(await kit.take({ ...none, lights: [lamp, { name: 'Daylight', kind: 'lamp' }] })).toBe(2)
  const { lights, bodies } = await kit.all()
  expect(lights).toEqual([{ name: 'Daylight', kind: 'lamp' }, STARTER_KIT.lights[1], STARTER_KIT.lights[2], lamp])
  expect(bodies).toEqual(STARTER_KIT.bodies)
})
