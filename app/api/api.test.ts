import { randomUUID } from 'node:crypto'
import sharp from 'sharp'
import { FOSSIL as fossil, GARDEN as garden } from '@/demo/scenario'
import { context } from '@/server'
import * as frameRoute from './frames/[id]/[what]/route'
import * as kitRoute from './kit/route'
import * as shelfRoute from './kit/[shelf]/route'
import * as againRoute from './jobs/[id]/again/route'
import * as cancelRoute from './jobs/[id]/cancel/route'
import * as renderRoute from './renders/[id]/[what]/route'
import * as importRoute from './shoots/[id]/import/route'
import * as fuseRoute from './runs/[id]/fuse/route'
import * as eventsRoute from './events/route'
import * as surveyRoute from './runs/[id]/survey/route'
import * as cardRoute from './shoots/[id]/card/route'
import * as shootsRoute from './shoots/route'
import * as shootRoute from './shoots/[id]/route'
import * as simulateRoute from './shoots/[id]/shoot/route'
import { answer, jpeg, JSON_TYPE, newRun, newShoot, ownFolder, params, put, refused, request } from './testRoutes'
import * as tilesRoute from './tiles/[...path]/route'

ownFolder()

describe('shoots', () => {
  test('are made, listed, read and replanned', async () => {
    const id = await newShoot()
    const { body: list } = await answer(await shootsRoute.GET(new Request('http://localhost/api/shoots?words=&state=planned')))
    expect(list.shoots[0]).toMatchObject({ id: Number(id), title: fossil.title, state: 'planned' })
    const changed = await shootRoute.PUT(request({ title: 'Other title', scene: 'nib', plan: fossil.plan }), params({ id }))
    expect(changed.status).toBe(200)
    const { body } = await answer(await shootRoute.GET(request(), params({ id })))
    expect(body).toMatchObject({ title: 'Other title', scene: 'nib', runs: [], jobs: [] })
  })

  test('bad requests get a sentence and the field', async () => {
    expect(await answer(await shootsRoute.POST(new Request('http://here/', { method: 'POST', body: '{', headers: JSON_TYPE })))).toMatchObject(
      refused('request.noJson'),
    )
    const negative = { ...fossil.plan, optics: { ...fossil.plan.optics, magnification: -1 } }
    expect(await answer(await shootsRoute.POST(request({ title: 'x', plan: negative })))).toMatchObject({
      status: 400,
      body: { field: 'plan.optics.magnification' },
    })
    expect(await answer(await shootRoute.GET(request(), params({ id: 'one' })))).toMatchObject(refused('request.address'))
    expect(await answer(await shootRoute.GET(request(), params({ id: '4711' })))).toMatchObject(refused('shoot.gone'))
  })

  test('without devices switched on, a call to them says so', async () => {
    const { POST } = await import('./shoots/[id]/devices/route')
    expect(await answer(await POST(request({ do: 'state' }), params({ id: await newShoot(garden) })))).toMatchObject(refused('device.off'))
    expect(await answer(await POST(request({ do: 'fly' }), params({ id: await newShoot(garden) })))).toMatchObject({ status: 400 })
  })

  test('take in a field log, entry by entry, and refuse what is none', async () => {
    const { POST } = await import('./shoots/[id]/field/route')
    const id = await newShoot()
    const entries = [{ id: randomUUID(), at: new Date().toISOString(), kind: 'missed' }]
    expect(await answer(await POST(request({ entries }), params({ id })))).toMatchObject({ status: 200, body: { kept: 1 } })
    expect((await answer(await POST(request({ entries: [{ kind: 'taken' }] }), params({ id })))).status).toBe(400)
  })
})

describe('frames', () => {
  test('are taken in and given back as they came', async () => {
    const contents = await jpeg()
    const { body } = await put(await newRun(), 'a.jpg', contents)
    const original = await frameRoute.GET(request(), params({ id: String(body.id), what: 'original' }))
    expect(new Uint8Array(await original.arrayBuffer())).toEqual(contents)
    const thumb = await frameRoute.GET(request(), params({ id: String(body.id), what: 'thumb' }))
    expect(thumb.headers.get('content-type')).toBe('image/jpeg')
    const zoom = await frameRoute.GET(request(), params({ id: String(body.id), what: 'zoom' }))
    expect(await zoom.text()).toContain('<Image')
    const tile = await tilesRoute.GET(request(), params({ path: [`frame-${body.id}`, '6', '0_0.jpeg'] }))
    expect((await sharp(Buffer.from(await tile.arrayBuffer())).metadata()).width).toBe(64)
    expect(await answer(await frameRoute.GET(request(), params({ id: String(body.id), what: 'soul' })))).toMatchObject(refused('request.address'))
  })

  test('bad ones are refused with a sentence', async () => {
    const run = await newRun()
    expect(await put(run, '../a.jpg', 'x')).toMatchObject(refused('frame.name'))
    expect(await put(run, '', 'x')).toMatchObject(refused('frame.name'))
    expect(await put(run, 'a.jpg', null)).toMatchObject(refused('picture.empty'))
    expect(await put(run, 'a.jpg', 'text')).toMatchObject(refused('picture.unreadable'))
    expect(await answer(await importRoute.POST(request({ folder: '/etc' }), params({ id: await newShoot() })))).toMatchObject(
      refused('folder.outside'),
    )
    expect(await answer(await importRoute.POST(request({}), params({ id: await newShoot() })))).toMatchObject(refused('value.any.required'))
  })

  test.each([
    [['nitidus.db']],
    [['frame-1', '..', '0_0.jpeg']],
    [['frame-1', '3', '../../x.jpeg']],
    [['frame-1', '3', '0_0.jpeg', 'more']],
    [['runs-1', '3', '0_0.jpeg']],
  ])('a tile address that leaves its folder is refused: %j', async (parts) =>
    expect(await answer(await tilesRoute.GET(request(), params({ path: parts })))).toMatchObject(refused('request.address')),
  )
})

describe('jobs', () => {
  test('need a run with frames enough', async () => {
    const run = await newRun()
    expect(await answer(await fuseRoute.POST(request({}), params({ id: '4711' })))).toMatchObject(refused('run.gone'))
    expect(await answer(await fuseRoute.POST(request({}), params({ id: run })))).toMatchObject(refused('run.tooFew'))
    await put(run, 'a.jpg', await jpeg())
    expect(await answer(await fuseRoute.POST(request({}), params({ id: run })))).toMatchObject(refused('run.tooFew'))
    await put(run, 'b.jpg', await jpeg('#678'))
    expect(await answer(await fuseRoute.POST(request({ reference: 3 }), params({ id: run })))).toMatchObject(refused('run.reference'))
    expect(await answer(await fuseRoute.POST(request({ style: 'glue' }), params({ id: run })))).toMatchObject(refused('value.any.only'))
  })

  test('reach whoever listens, and can be cancelled and run again', async () => {
    const id = await newShoot()
    const listening = new AbortController()
    const events = await eventsRoute.GET(new Request('http://here/', { signal: listening.signal }))
    expect(events.headers.get('content-type')).toBe('text/event-stream')
    const { body } = await answer(await simulateRoute.POST(request({}), params({ id })))
    const reader = events.body!.pipeThrough(new TextDecoderStream()).getReader()
    let heard = ''
    while (!heard.includes('"state":"running"')) heard += (await reader.read()).value
    expect(await answer(await againRoute.POST(request(), params({ id: String(body.id) })))).toMatchObject(refused('job.notEnded'))
    expect((await cancelRoute.POST(request(), params({ id: String(body.id) }))).status).toBe(200)
    while (!heard.includes('"state":"cancelled"')) heard += (await reader.read()).value
    listening.abort()
    expect(await answer(await againRoute.POST(request(), params({ id: '4711' })))).toMatchObject(refused('job.gone'))
  })

  test('a render that is not there is said', async () => {
    for (const what of ['tif', 'map', 'zoom', 'thumb', 'soul']) {
      expect((await renderRoute.GET(request(), params({ id: '4711', what }))).status).toBe(404)
    }
    expect(await answer(await renderRoute.GET(request(), params({ id: '4711', what: 'tif' })))).toMatchObject(refused('render.gone'))
  })
})

describe('a plan with its fields', () => {
  test('comes back as it was filled in, and goes where the plan comes from elsewhere', async () => {
    const { done: _done, ...shoot } = garden
    const { body } = await answer(await shootsRoute.POST(request(shoot)))
    const id = String(body.id)
    const read = async () => (await answer(await shootRoute.GET(request(), params({ id })))).body
    expect((await read()).sheet).toMatchObject({ kind: 'range', far_mm: null, targets: garden.sheet!.targets })
    expect((await shootRoute.PUT(request({ title: 'By hand', scene: 'nib', plan: fossil.plan }), params({ id }))).status).toBe(200)
    expect(await read()).toMatchObject({ title: 'By hand', sheet: null })
    const bad = { ...shoot, sheet: { ...shoot.sheet, mover: 'cart' } }
    expect((await answer(await shootsRoute.POST(request(bad)))).status).toBe(400)
  })
})

describe('the kit', () => {
  const lamp = { name: 'Ring lamp', kind: 'lamp' }
  const at = (id?: number) => `http://here/${id === undefined ? '' : `?id=${id}`}`
  const putItem = async (shelf: string, item: unknown, id?: number) =>
    answer(await shelfRoute.PUT(new Request(at(id), { method: 'PUT', body: JSON.stringify(item), headers: JSON_TYPE }), params({ shelf })))
  const removeItem = async (shelf: string, id?: number) =>
    answer(await shelfRoute.DELETE(new Request(at(id), { method: 'DELETE' }), params({ shelf })))

  test('items are added, changed, removed; what is wrong is said at its fact', async () => {
    expect((await putItem('lights', lamp)).status).toBe(200)
    const { id } = (await answer(await kitRoute.GET())).body.lights.at(-1)
    expect((await putItem('lights', { ...lamp, name: 'Ring lamp, warm' }, id)).status).toBe(200)
    expect((await answer(await kitRoute.GET())).body.lights.at(-1)).toEqual({ ...lamp, id, name: 'Ring lamp, warm' })
    expect(await putItem('lights', { name: 'x', kind: 'flash' })).toMatchObject({ status: 400, body: { field: 'recycling_s' } })
    expect(await putItem('cats', lamp)).toMatchObject(refused('value.any.only'))
    expect((await removeItem('lights', id)).status).toBe(200)
    expect(await removeItem('lights', id)).toMatchObject(refused('kit.gone'))
    expect(await removeItem('lights')).toMatchObject(refused('kit.which'))
  })

  test('a whole kit goes out and in', async () => {
    const { body: kit } = await answer(await kitRoute.GET())
    expect(await answer(await kitRoute.POST(request(kit)))).toMatchObject({ status: 200, body: { taken: Object.values(kit).flat().length } })
    expect(await answer(await kitRoute.POST(request({ lights: [{ name: 'x' }] })))).toMatchObject(refused('value.any.required'))
  })
})

describe('the run card', () => {
  test('of a kept plan is a PDF, in inches too', async () => {
    const id = await newShoot(garden)
    for (const units of ['metric', 'inches']) {
      const pdf = await cardRoute.GET(new Request(`http://here/?units=${units}`), params({ id }))
      expect(pdf.headers.get('content-type')).toBe('application/pdf')
      expect(Buffer.from(await pdf.arrayBuffer()).toString('latin1', 0, 5)).toBe('%PDF-')
    }
    expect(await answer(await cardRoute.GET(request(), params({ id: '4711' })))).toMatchObject(refused('shoot.gone'))
  })
})

describe('the survey', () => {
  test('needs a run with frames; frames are set aside and restored by hand', async () => {
    const run = await newRun()
    expect(await answer(await surveyRoute.POST(request(), params({ id: '4711' })))).toMatchObject(refused('run.gone'))
    const { body } = await put(run, 'a.jpg', await jpeg())
    expect(await answer(await surveyRoute.POST(request(), params({ id: run })))).toMatchObject(refused('run.tooFew'))
    const aside = async (value: unknown, id = String(body.id)) =>
      answer(
        await frameRoute.PUT(
          new Request('http://here/', { method: 'PUT', body: JSON.stringify({ aside: value }), headers: JSON_TYPE }),
          params({ id, what: 'aside' }),
        ),
      )
    for (const value of [true, false, null]) expect((await aside(value)).status).toBe(200)
    expect((await aside('yes')).status).toBe(400)
    expect(await aside(true, '4711')).toMatchObject(refused('frame.gone'))
  })

  test('faults of the stand-in are switched on by name', async () => {
    const id = await newShoot()
    expect(await answer(await simulateRoute.POST(request({ faults: ['gremlins'] }), params({ id })))).toMatchObject({ status: 400 })
    const { body } = await answer(await simulateRoute.POST(request({ faults: ['noFlash', 'endShort'] }), params({ id })))
    const { db, jobs } = await context()
    const { settings_json } = await db.selectFrom('job').select('settings_json').where('id', '=', body.id).executeTakeFirstOrThrow()
    expect(JSON.parse(settings_json).faults.map(({ kind }: { kind: string }) => kind)).toEqual(['noFlash', 'endShort'])
    await jobs.cancel(body.id)
  })
})
