import { STARTER_KIT } from '@/core/kit'
import { NEW_SHEET } from '@/core/sheet'
import { storedKit } from '@/schemas'
import { demoShoot, TestServer } from '../testServer'

let server: TestServer
beforeEach(async () => {
  server = await TestServer.start()
})
afterEach(() => server.stop())

/** Number of an item. */
const idOf = async (name: string) => (await server.context.kit.records()).lights.find((light) => light.name === name)!.id!

const lamp = { name: 'Ring lamp', kind: 'lamp' as const }

test('a new database starts with the made-up kit, and an opened one keeps its own', async () => {
  expect(await server.context.kit.all()).toEqual(STARTER_KIT)
  await server.context.kit.remove('lights', await idOf('Daylight'))
  const again = await server.open()
  expect((await again.kit.all()).lights.map(({ name }) => name)).toEqual(['Two lamps', 'Studio flash'])
})

test('items are added, changed and renamed in their place', async () => {
  const { kit } = server.context
  await kit.put('lights', lamp)
  await kit.put('lights', { name: 'Skylight', kind: 'daylight' }, await idOf('Daylight'))
  expect((await kit.all()).lights.map(({ name }) => name)).toEqual(['Skylight', 'Two lamps', 'Studio flash', 'Ring lamp'])
})

test('a name that is taken, or an item that is gone, is said and nothing changes', async () => {
  const { kit } = server.context
  await expect(kit.put('lights', { name: 'Two lamps', kind: 'lamp' })).rejects.toMatchObject({ code: 'kit.nameTaken' })
  await expect(kit.put('lights', { name: 'Two lamps', kind: 'lamp' }, await idOf('Daylight'))).rejects.toMatchObject({ code: 'kit.nameTaken' })
  await expect(kit.put('lights', lamp, 4711)).rejects.toMatchObject({ code: 'kit.gone' })
  await expect(kit.remove('lights', 4711)).rejects.toMatchObject({ code: 'kit.gone' })
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

test('a renamed item is renamed in plans and calibrations, and runs keep the kit that they were shot with', async () => {
  const { kit, shoots } = server.context
  const shootId = await shoots.create({ ...demoShoot, sheet: { ...NEW_SHEET, lens: 'Macro 60 mm' } })
  await shoots.addRun(shootId, 'imported')
  const lens = (await kit.records()).lenses.find(({ name }) => name === 'Macro 60 mm')!
  await kit.put('lenses', { ...STARTER_KIT.lenses.find(({ name }) => name === lens.name)!, name: 'Old 60' }, lens.id)
  const { sheet, runs } = await shoots.detail(shootId)
  expect([sheet!.lens, runs[0].sheet!.lens]).toEqual(['Old 60', 'Macro 60 mm'])
  const { kit_json } = await server.context.db.selectFrom('run').select('kit_json').executeTakeFirstOrThrow()
  expect(storedKit(kit_json)).toEqual(STARTER_KIT)
})
