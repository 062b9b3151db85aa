import { expect, test, type Page } from '@playwright/test'
import sharp from 'sharp'
import { NIB } from '../demo/scenario'
import { big, takeOne, untilKept } from './fieldHand'

test.use({ serviceWorkers: 'allow' })

async function newShoot(page: Page, change: object = {}): Promise<number> {
  const { title, subject, scene, plan, sheet } = NIB
  const response = await page.request.post('/api/shoots', { data: { title, subject, scene, plan, sheet, ...change } })
  return (await response.json()).id
}

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 } })

  test('the run card goes on without a connection, survives a reload, and sends its log when it is back', async ({ page, context }) => {
    const id = await newShoot(page)
    await page.goto(`/shoots/${id}/field`)
    await expect(page.getByText('Frame 1 of 21')).toBeVisible()
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
    await takeOne(page, 'Frame 2 of 21')
    await page.evaluate(() => navigator.serviceWorker.ready)
    // Loaded once more under the worker, as on the next opening.
    await page.reload()
    await expect(page.getByText('Frame 2 of 21')).toBeVisible()
    await untilKept(page)

    await context.setOffline(true)
    await takeOne(page, 'Frame 3 of 21')
    await expect(page.getByText('waiting on this phone')).toBeVisible()
    await page.reload()
    await expect(page.getByText('Frame 3 of 21')).toBeVisible()
    await page.getByRole('button', { name: 'Pause' }).click()
    await expect(page.getByText('Pausing after frame 2 of 21')).toBeVisible()
    await page.reload()
    await page.getByRole('button', { name: 'Continue' }).click()
    await takeOne(page, 'Frame 4 of 21')
    const waiting = (await big(page).boundingBox())!

    await context.setOffline(false)
    await expect(page.getByText('on this phone for a connection')).toBeHidden()
    // What says so comes and goes with every tick: nothing moves under the thumb by it.
    expect(await big(page).boundingBox()).toEqual(waiting)
    const { field } = await (await page.request.get(`/api/shoots/${id}`)).json()
    expect(field.map(({ kind }: { kind: string }) => kind)).toEqual(['taken', 'taken', 'paused', 'resumed', 'taken'])
  })

  test('a frame taken elsewhere reflows the plan, one left out is a gap with the way back', async ({ page }) => {
    const id = await newShoot(page)
    await page.goto(`/shoots/${id}/field`)
    await takeOne(page, 'Frame 2 of 21')
    await page.getByRole('button', { name: 'Focus is elsewhere' }).click()
    await page.getByRole('spinbutton').fill('0.6')
    await takeOne(page, 'Frame 3 of')
    await expect(page.getByText('not as planned')).toBeVisible()
    await page.getByRole('button', { name: 'Skip this frame' }).click()
    // The frame that was left out keeps its number.
    await takeOne(page, 'Frame 5 of')
    await expect(page.getByText('Gap: go back to')).toBeVisible()
    await expect(page.locator('[data-gap]')).toHaveCount(1)
    await page.getByRole('button', { name: 'Taken, gap filled' }).click()
    await expect(page.getByText('Gap: go back to')).toBeHidden()
  })

  test('a voice says what comes next, and red light leaves no other', async ({ page }) => {
    await page.addInitScript(() => {
      const said: string[] = []
      Object.assign(window, { said })
      speechSynthesis.speak = ({ text }) => void said.push(text)
      navigator.vibrate = () => true
    })
    const id = await newShoot(page)
    await page.goto(`/shoots/${id}/field`)
    await page.getByRole('button', { name: 'Say it aloud' }).click()
    await takeOne(page, 'Frame 2 of 21')
    const said = () => page.evaluate(() => (window as unknown as { said: string[] }).said)
    expect((await said())[0]).toMatch(/^Frame 1\. Focus to .*\d+(\.\d+)? (milli)?metres\.$/)
    expect(await said()).toContain('Press now.')
    await expect.poll(async () => (await said()).at(-1)).toMatch(/^Frame 2\./)
    // Chosen for this device.
    await page.reload()
    await expect(page.getByRole('button', { name: 'Voice is on' })).toBeVisible()

    await page.getByRole('button', { name: 'Red light' }).click()
    const { channels } = await sharp(await page.screenshot()).stats()
    expect(channels.slice(0, 3).map(({ max }) => max > 0)).toEqual([true, false, false])
    expect(channels[0].mean).toBeLessThan(80)
  })

  test('the preparation list fits the plan and is kept', async ({ page }) => {
    const id = await newShoot(page)
    await page.goto(`/shoots/${id}/field`)
    await page.getByText('Before the first frame').click()
    await page.getByText('Battery full: it must last 21 frames').click()
    await expect(page.getByRole('checkbox', { name: /Battery full/ })).toBeChecked()
    const left = page.getByText(/\d+ of \d+ still to do/)
    const [some, all] = (await left.textContent())!.match(/\d+/g)!.map(Number)
    expect(some).toBe(all - 1)
    await page.reload()
    await expect(page.getByText(`${some} of ${all} still to do`)).toBeVisible()
  })
})

test('on the simulated devices a run by itself with a battery that ends is finished after changing it, and checked', async ({ page }) => {
  const id = await newShoot(page, { plan: { ...NIB.plan, subject: { kind: 'depth', depth_mm: 12 } }, sheet: { ...NIB.sheet, depth_mm: 12 } })
  await page.goto(`/shoots/${id}/field`)
  await page.getByRole('button', { name: 'Use the simulated camera' }).click()
  const faults = page.getByRole('combobox', { name: 'What goes wrong' })
  await faults.fill('battery')
  await faults.press('Enter')
  await faults.press('Escape')
  await page.getByRole('button', { name: 'Switch them on' }).click()
  await expect(page.getByAltText('What the simulated camera sees')).toBeVisible()
  await page.getByRole('button', { name: 'Test frame' }).click()
  await expect(page.getByRole('figure', { name: 'Tones of the test frame' })).toBeVisible()
  await page.getByRole('button', { name: /automatically/ }).click()
  await expect(page.getByText('battery is empty')).toBeVisible()
  await expect(page.getByText(/Far end not reached: take \d+ more, (at|from)/)).toBeVisible()
  await page.getByRole('button', { name: 'Change the battery' }).click()
  await page.getByRole('button', { name: /automatically/ }).click()
  await expect(page.getByText('The plan is covered.')).toBeVisible()
  await expect(page.getByText(/Far end not reached: take/)).toBeHidden()
})
