import { X509Certificate, createHash } from 'node:crypto'
import { chromium, expect, test, type Browser, type Page } from '@playwright/test'
import { GARDEN } from '../demo/scenario'
import { goThrough, untilKept } from './fieldHand'

test.use({ serviceWorkers: 'allow' })

/** Where the gate lets other devices in: another address of this machine stands for another device's way here. */
const PHONE = 'https://127.0.0.2:3444'

let phoneBrowser: Browser
test.beforeAll(async ({ request }) => {
  // The phone was told to trust this one certificate, as the page says.
  const answer = await request.get(`${PHONE}/nitidus.crt`, { ignoreHTTPSErrors: true })
  const { publicKey } = new X509Certificate(await answer.text())
  const pin = createHash('sha256')
    .update(publicKey.export({ type: 'spki', format: 'der' }))
    .digest('base64')
  phoneBrowser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', `--ignore-certificate-errors-spki-list=${pin}`],
  })
})
test.afterAll(() => phoneBrowser.close())

const code = (page: Page) => page.getByText(/^\d{4} \d{4}$/)

test('another device is refused, is paired, runs a landscape without a connection, and brings its log home', async ({ page, request }) => {
  const { title, subject, scene, plan, sheet } = GARDEN
  const { id } = await (await request.post('/api/shoots', { data: { title, subject, scene, plan, sheet } })).json()
  const context = await phoneBrowser.newContext({ viewport: { width: 390, height: 844 } })
  const phone = await context.newPage()
  await phone.goto(`${PHONE}/shoots/${id}/field`)
  await expect(phone.getByRole('heading', { name: 'Pair this device' })).toBeVisible()
  expect((await phone.request.get(`${PHONE}/api/shoots`, { ignoreHTTPSErrors: true })).status()).toBe(401)

  await page.goto('/phone')
  await page.getByRole('button', { name: 'Pair a device' }).click()
  await expect(page.getByText(PHONE)).toBeVisible()
  await expect(page.getByAltText('The address with the code, to scan')).toBeVisible()
  const shown = (await code(page).textContent())!
  // Mistyped first.
  await phone.getByLabel('Code').fill(shown === '0000 0000' ? '1111 1111' : '0000 0000')
  await phone.getByRole('button', { name: 'Pair' }).click()
  await expect(phone.getByRole('alert')).toHaveText('This code is wrong. Read it again on the computer.')
  await phone.getByLabel('Code').fill(shown)
  await phone.getByLabel('What to call this device').fill('Phone in the garden')
  await phone.getByRole('button', { name: 'Pair' }).click()
  await expect(phone.getByRole('link', { name: title })).toBeVisible()
  await expect(page.getByText('Phone in the garden is paired.')).toBeVisible()
  // Paired on the computer only.
  await expect(phone.getByRole('link', { name: 'Phone' })).toBeHidden()

  await phone.goto(`${PHONE}/shoots/${id}/field`)
  await expect(phone.getByText(/^Frame 1 of/)).toBeVisible()
  await phone.evaluate(() => navigator.serviceWorker.ready)
  await phone.reload()
  await expect(phone.getByText(/^Frame 1 of/)).toBeVisible()
  await untilKept(phone)
  await context.setOffline(true)
  await goThrough(phone, 'Frame 2 of')
  await phone.reload()
  await goThrough(phone, 'Frame 3 of')
  await expect(phone.getByText('waiting on this phone')).toBeVisible()
  await context.setOffline(false)
  await expect(phone.getByText('on this phone for a connection')).toBeHidden()
  const { field } = await (await request.get(`/api/shoots/${id}`)).json()
  expect(field.map(({ kind }: { kind: string }) => kind)).toEqual(['taken', 'taken'])

  await page.getByRole('button', { name: 'Remove Phone in the garden' }).click()
  await page.getByRole('button', { name: 'Remove', exact: true }).last().click()
  await expect(page.getByText('None yet.')).toBeVisible()
  await expect(async () => expect((await phone.request.get(`${PHONE}/api/shoots`, { ignoreHTTPSErrors: true })).status()).toBe(401)).toPass()
})
