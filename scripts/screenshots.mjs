import { chromium } from '@playwright/test'

/**
 * Pictures of the main views from a running application with the demo data:
 * node scripts/screenshots.mjs http://127.0.0.1:3210 docs/screenshots
 */
const [base = 'http://127.0.0.1:3210', folder = 'docs/screenshots', only] = process.argv.slice(2)
const flags = ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--no-first-run']
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: flags })

const { shoots } = await (await fetch(`${base}/api/shoots`)).json()
const fused = shoots.find(({ title }) => title.includes('C 17'))
const range = shoots.find(({ plan }) => plan?.hyperfocal_mm)
const byDrive = shoots.find(({ title }) => title.includes('sample 12'))
const tab = (name) => (page) => page.getByRole('tab', { name }).click()

const views = [
  { name: 'home', path: '/', wait: 6000 },
  { name: 'plan', path: `/shoots/${fused.id}/plan` },
  { name: 'plan-distances', path: `/shoots/${range.id}/plan`, act: tab('Every frame') },
  { name: 'logbook', path: '/logbook', wait: 2500, act: (page) => page.getByRole('button', { name: 'Over time' }).click() },
  { name: 'practice', path: '/practice/byHand?level=2&seed=4', wait: 5000, act: (page) => page.keyboard.press('Shift+ArrowRight') },
  { name: 'run-card', path: `/shoots/${fused.id}/card` },
  { name: 'kit', path: '/kit' },
  { name: 'shoot', path: `/shoots/${fused.id}/shoot`, wait: 9000 },
  { name: 'result', path: `/shoots/${fused.id}/result`, wait: 6000 },
  { name: 'result-map', path: `/shoots/${fused.id}/result`, wait: 2500, act: (page) => page.keyboard.press('m') },
  {
    name: 'mend',
    path: `/shoots/${fused.id}/mend`,
    wait: 2500,
    act: async (page) => {
      const look = page.getByRole('button', { name: /^(Look the picture over|Go through them)/ })
      await look.click()
      await page.getByTestId('place').waitFor({ timeout: 60_000 })
      await page.getByRole('button', { name: '100 %' }).click()
      const box = await page.getByTestId('porthole').boundingBox()
      await page.mouse.move(box.x + box.width * 0.56, box.y + box.height * 0.5)
      await page.waitForTimeout(1500)
      await page.getByRole('button', { name: /Paint from frame 9,/ }).click()
      await page.mouse.move(box.x + box.width * 0.56, box.y + box.height * 0.5)
      await page.waitForTimeout(2500)
    },
  },
  {
    name: 'deliver',
    path: `/shoots/${fused.id}/deliver`,
    wait: 2500,
    act: async (page) => {
      const add = async (name) => {
        await page.getByRole('button', { name: 'Add a step' }).click()
        await page.getByRole('menuitem', { name, exact: true }).click()
        await page.waitForTimeout(600)
      }
      await add('Ladder of tones')
      const rung = page.getByRole('slider', { name: 'Tones 4 stops below white' })
      await rung.focus()
      for (let k = 0; k < 6; k++) await page.keyboard.press('ArrowUp')
      await page.evaluate('window.scrollTo(0, 0)')
      await page.waitForTimeout(1500)
    },
  },
  {
    name: 'relief',
    path: `/shoots/${fused.id}/deliver?view=relief`,
    wait: 4000,
    act: async (page) => {
      await page.getByRole('checkbox', { name: 'Light from the side' }).check()
      await page.getByTestId('relief').focus()
      for (let k = 0; k < 5; k++) await page.keyboard.press('ArrowLeft')
      for (let k = 0; k < 4; k++) await page.keyboard.press('ArrowUp')
    },
  },
  {
    name: 'result-compare',
    path: `/shoots/${fused.id}/result`,
    wait: 2500,
    act: async (page) => {
      await page.getByRole('button', { name: '100 %' }).click()
      await page.getByRole('button', { name: 'compare' }).last().click()
      await page.getByRole('button', { name: 'Two views' }).click()
      await page.waitForTimeout(2500)
      await page.evaluate('window.scrollTo(0, 0)')
    },
  },
  {
    name: 'field',
    path: `/shoots/${byDrive.id}/field`,
    act: async (page) => {
      await page.getByRole('button', { name: 'Use the simulated camera' }).click()
      await page.getByRole('button', { name: 'Switch them on' }).click()
      await page.getByAltText('What the simulated camera sees').waitFor({ timeout: 60_000 })
      await page.getByRole('button', { name: /automatically/ }).click()
      await page.waitForTimeout(22_000)
    },
  },
  { name: 'storage', path: '/storage' },
  {
    name: 'phone',
    path: '/phone',
    act: async (page) => {
      const pair = page.getByRole('button', { name: 'Pair a device' })
      if (await pair.isVisible()) await pair.click()
    },
  },
  { name: 'field-phone', path: `/shoots/${range.id}/field`, phone: true },
  { name: 'plan-phone', path: `/shoots/${fused.id}/plan`, phone: true },
]

for (const { name, path, wait = 1500, act, phone, taken } of views) {
  if (only && !only.split(',').includes(name)) continue
  const page = await browser.newPage({ viewport: phone ? { width: 390, height: 844 } : { width: 1280, height: 800 } })
  page.on('pageerror', (error) => console.error(name, error.message))
  await page.goto(base + path, { waitUntil: 'load' })
  // Grey bars stand for what is not there yet.
  await page.locator('.ant-skeleton').first().waitFor({ state: 'detached' })
  await page.waitForTimeout(wait)
  if (act) {
    await act(page)
    await page.waitForTimeout(1800)
  }
  // Some pass too quickly for the pause above and were taken as they passed.
  if (!taken) await page.screenshot({ path: `${folder}/${name}.png` })
  await page.close()
}
await browser.close()
