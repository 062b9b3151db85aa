import { FOSSIL as fossil } from '@/demo/scenario'
import * as binRoute from './bin/route'
import * as frameRoute from './frames/[id]/[what]/route'
import * as framesRoute from './runs/[id]/frames/route'
import * as shootRoute from './shoots/[id]/route'
import * as shootsRoute from './shoots/route'
import { answer, jpeg, JSON_TYPE, newRun, newShoot, ownFolder, params, put, refused, request } from './testRoutes'
import * as storageRoute from './storage/route'

ownFolder()

describe('what a request may hold', () => {
  const post = async (body: BodyInit, type?: string) =>
    answer(await shootsRoute.POST(new Request('http://here/', { method: 'POST', body, headers: type ? { 'content-type': type } : {} })))
  const shoot = JSON.stringify({ title: 'x', plan: fossil.plan })

  test('JSON is taken as JSON only: a form or a text from another page is none', async () => {
    for (const type of ['text/plain', 'application/x-www-form-urlencoded', 'multipart/form-data', undefined])
      expect(await post(shoot, type)).toMatchObject(refused('request.jsonType'))
    expect((await post(shoot, 'application/json; charset=utf-8')).status).toBe(200)
  })

  test('no more than a form holds is read, whatever the length is said to be', async () => {
    let sent = 0
    const endless = () =>
      new ReadableStream<Uint8Array>({
        pull(to) {
          sent += 64_000
          if (sent > 42_000_000) to.close()
          else to.enqueue(new Uint8Array(64_000).fill(32))
        },
      })
    for (const headers of [JSON_TYPE, { ...JSON_TYPE, 'content-length': '10' }]) {
      sent = 0
      const request = new Request('http://here/', { method: 'POST', body: endless(), headers, duplex: 'half' } as RequestInit)
      expect(await answer(await shootsRoute.POST(request))).toMatchObject(refused('request.tooLarge'))
      expect(sent).toBeLessThan(3_000_000)
    }
  })

  test('an upload, which does not pass the proxy, asks the guard itself', async () => {
    const run = await newRun()
    const upload = async (headers: Record<string, string>) =>
      answer(await framesRoute.PUT(new Request('http://here/?name=a.jpg', { method: 'PUT', body: await jpeg(), headers }), params({ id: run })))
    expect(await upload({ host: 'evil.example' })).toMatchObject({ status: 403, body: { code: 'request.host' } })
    expect(await upload({ host: 'localhost', origin: 'http://evil.example' })).toMatchObject({ status: 403, body: { code: 'request.otherSite' } })
    expect((await upload({ host: 'localhost' })).status).toBe(200)
  })

  test('a number has one spelling', async () => {
    const id = await newShoot()
    expect((await shootRoute.GET(request(), params({ id }))).status).toBe(200)
    for (const spelt of [`0${id}`, `+${id}`, `${id}.0`, ` ${id}`, `${id}e0`, `0x${id}`, '-1', '0', '1e400'])
      expect(await answer(await shootRoute.GET(request(), params({ id: spelt })))).toMatchObject(refused('request.address'))
  })

  test('an original is sent as the picture that it was checked to be, and no script in it is asked to run', async () => {
    const { body } = await put(await newRun(), 'page.html.jpg', await jpeg())
    const original = await frameRoute.GET(request(), params({ id: String(body.id), what: 'original' }))
    expect(original.headers.get('content-type')).toBe('image/jpeg')
    expect(await put(await newRun(), 'page.jpg', '<!doctype html><script>alert(1)</script>')).toMatchObject(refused('picture.unreadable'))
    expect(await put(await newRun(), 'page.html', await jpeg())).toMatchObject(refused('picture.ending'))
  })
})

describe('storage', () => {
  test('a deleted shoot is in the bin and comes back; the bin is emptied by hand', async () => {
    const id = await newShoot()
    expect((await shootRoute.DELETE(request(), params({ id }))).status).toBe(200)
    expect(await answer(await shootRoute.GET(request(), params({ id })))).toMatchObject(refused('shoot.gone'))
    const { body } = await answer(await storageRoute.GET())
    expect(body.bin[0]).toMatchObject({ kind: 'shoot', id: Number(id) })
    expect((await binRoute.POST(request({ kind: 'shoot', id: Number(id) }))).status).toBe(200)
    expect((await shootRoute.GET(request(), params({ id }))).status).toBe(200)
    await shootRoute.DELETE(request(), params({ id }))
    expect((await answer(await binRoute.DELETE())).body.deleted).toBeGreaterThan(0)
    expect(await answer(await binRoute.POST(request({ kind: 'shoot', id: Number(id) })))).toMatchObject(refused('bin.gone'))
    expect(await answer(await binRoute.POST(request({ kind: 'kit_item', id: 1 })))).toMatchObject(refused('value.any.only'))
  })
})
