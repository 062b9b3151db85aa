import { readFile } from 'node:fs/promises'
import { expect, test, type Page } from '@playwright/test'
import { choose } from './select'

const verdict = (page: Page) => page.getByTestId('verdict')
const tab = (page: Page, name: string) => page.getByRole('tab', { name }).click()
const alertWith = (page: Page, words: string | RegExp) => page.getByRole('alert').filter({ hasText: words }).first()

async function save(page: Page, name: string) {
  const started = page.waitForEvent('download')
  await page.getByRole('button', { name, exact: true }).click()
  const file = await started
  return { name: file.suggestedFilename(), text: await readFile(await file.path(), 'utf8') }
}

test('macro on a rail: verdict, side view, charts, dial, and files to take along', async ({ page }) => {
  await page.goto('/shoots/new')
  await page.getByLabel('Title').fill('beetle wing')
  await expect(verdict(page)).toHaveText(/^\d+ frames, 0\.\d+ mm apart/)
  await expect(page.getByRole('img', { name: /Side view to scale: 164 mm/ })).toBeVisible()
  const count = Number((await page.getByTestId('frame-count').textContent())!.replace(/\D/g, ''))

  await tab(page, 'Aperture and blur')
  await expect(page.getByText('is the smallest opening at which diffraction leaves half')).toBeVisible()
  await expect(page.getByText('no gap would open. The overlap is enough')).toBeVisible()
  await page.getByLabel('Overlap of neighbouring slices').fill('2')
  await expect(page.getByText('gaps would open between slices')).toBeVisible()
  await page.getByLabel('Overlap of neighbouring slices').fill('30')

  await tab(page, 'Every frame')
  await expect(page.getByRole('columnheader', { name: 'Dial' })).toBeVisible()
  await expect(page.getByRole('cell', { name: 'turn 0, mark 0', exact: true })).toBeVisible()
  const csv = await save(page, 'CSV')
  expect(csv.name).toBe('beetle wing.csv')
  expect(csv.text.trim().split('\r\n')).toHaveLength(count + 1)
  expect(JSON.parse((await save(page, 'JSON')).text).plan.frameCount).toBe(count)

  // A click on the ribbon chooses the frame in the table, and the other way round.
  await page.locator('[data-slice="2"]').click()
  await expect(page.getByRole('row', { selected: true })).toContainText(/^3/)
  await page.getByRole('row').nth(1).click()
  await expect(page.locator('[data-slice="0"]')).toHaveClass(/chosen/)

  // A motor takes G-code; the far end first starts there.
  await choose(page, 'Rail', 'Motor rail')
  await expect(page.getByRole('columnheader', { name: 'Microsteps' })).toBeVisible()
  const finer = (/^\d+/.exec((await verdict(page).textContent())!) ?? [])[0]
  expect((await save(page, 'G-code')).text).toContain(`frame ${finer} of ${finer}`)
})

test('ways to a size: tubes, a close-up lens, an objective, and a ruler in a picture', async ({ page }) => {
  await page.goto('/shoots/new')
  const magnification = page.getByText(/: 1 in the picture$/)
  await choose(page, 'Set the size with', 'Tubes or bellows')
  await choose(page, 'Add from the kit', 'Tube 36 mm')
  await expect(page.getByLabel('Extension', { exact: true })).toHaveValue('72')
  await expect(magnification).toHaveText('0.72 : 1 in the picture')
  await choose(page, 'Set the size with', 'Close-up lens')
  await expect(magnification).toHaveText('0.5 : 1 in the picture')
  await choose(page, 'Set the size with', 'Microscope objective')
  await page.getByLabel('Depth, nearest to farthest part').fill('0.4')
  await choose(page, 'From the kit', 'Objective 10 ×')
  await expect(magnification).toHaveText('10 : 1 in the picture')
  await expect(page.getByTestId('working-aperture')).toContainText('f/20')

  // Two marks half the picture apart, 10 mm on the ruler: 20 mm fill the frame, 36 mm of sensor picture them.
  await choose(page, 'Set the size with', 'Measured with a ruler')
  await page.getByRole('button', { name: 'Measure in a picture of a ruler…' }).click()
  await page.locator('input[type=file]').setInputFiles('docs/screenshots/home.png')
  const second = page.getByRole('slider', { name: 'second mark' })
  await expect(second).toHaveAttribute('aria-valuenow', '75')
  await second.focus()
  await page.keyboard.press('ArrowRight')
  await expect(second).toHaveAttribute('aria-valuenow', '75.1')
  await page.keyboard.press('ArrowLeft')
  await page.getByRole('button', { name: 'Take 20 mm across the frame' }).click()
  await expect(magnification).toHaveText('1.8 : 1 in the picture')
})

test('product by the focus drive: distance, step number, trade table, what if, budget', async ({ page }) => {
  await page.goto('/shoots/new')
  await page.getByLabel('Title').fill('Fountain pen')
  await page.getByLabel('Depth, nearest to farthest part').fill('34')
  await choose(page, 'Set the size with', 'From the distance')
  await page.getByLabel('From the sensor mark to the near edge').fill('0.4045')
  await expect(page.getByText('0.5 : 1 in the picture')).toBeVisible()
  await page.getByLabel('The body’s own bracketing').click()
  await page.getByLabel('Aperture, as marked').fill('8')
  await expect(page.getByText(/^Step \d+ of 10 moves the focus by/).first()).toBeVisible()
  await page.getByLabel('From the sensor mark to the near edge').fill('0.6')
  await expect(page.getByText('This is a cautious guess').first()).toBeVisible()
  await page.getByLabel('From the sensor mark to the near edge').fill('0.4045')

  await tab(page, 'What if')
  await expect(page.locator('[data-code="trade.none"], [data-code="trade.smaller"]')).toBeVisible()
  await page.getByText('another focal length, same size').click()
  await expect(page.getByRole('columnheader', { name: /^60 mm at/ })).toBeVisible()

  const before = await verdict(page).textContent()
  await page.getByRole('button', { name: 'Compare with this plan' }).click()
  await page.getByLabel('Aperture, as marked').fill('16')
  await expect(page.getByTestId('differences')).toContainText('ewer frames')
  await page.getByRole('button', { name: 'Go back to the first plan' }).click()
  await expect(verdict(page)).toHaveText(before!)

  await page.getByLabel('Frames there are').fill('20')
  await expect(page.locator('[data-code="budget.giveUp"]')).toBeVisible()
  await page.getByRole('listitem').filter({ hasText: 'Allow more blur.' }).getByRole('button', { name: 'Use this plan' }).click()
  await expect(page.locator('[data-code="budget.fits"]')).toBeVisible()
  const count = Number((/^(\d+) frames/.exec((await verdict(page).textContent())!) ?? [])[1])
  expect(count).toBeLessThanOrEqual(20)
})

test('landscape by the ring: targets, infinity, inches, filter, one-frame verdict', async ({ page }) => {
  await page.goto('/shoots/new')
  await page.getByText('By distances').click()
  await choose(page, 'Lens', 'Wide 24 mm')
  await page.getByLabel('Aperture, as marked').fill('8')
  await expect(verdict(page)).toContainText('by the focus ring')
  await page.getByRole('button', { name: 'Add a target' }).click()
  await page.getByLabel('Target 1', { exact: true }).fill('gate')
  await page.getByLabel('Distance of target 1').fill('9')
  await tab(page, 'Every frame')
  await expect(page.getByRole('columnheader', { name: 'For' })).toBeVisible()
  await expect(page.getByRole('row').filter({ hasText: 'gate' })).toHaveCount(1)
  await expect(page.getByRole('cell', { name: '∞' }).first()).toBeVisible()

  await page.getByText('in', { exact: true }).click()
  await expect(page.getByRole('cell', { name: /^\d′ .*″$/ }).first()).toBeVisible()
  await page.getByLabel('Nearest point', { exact: true }).fill('300 ft')
  await expect(verdict(page)).toHaveText('One frame at f/8 is enough')
  await page.getByText('mm', { exact: true }).first().click()

  await page.getByText('Light and time').click()
  await page.getByLabel('Test exposure, without filter').fill('1/13')
  await page.getByLabel('Filter', { exact: true }).fill('6')
  await tab(page, 'Light, time, load')
  await expect(page.getByText('6 stops of filter: 1/13 s becomes 5 s.')).toBeVisible()
})

test('one frame is told before a series, with the aperture that does it', async ({ page }) => {
  await page.goto('/shoots/new')
  await page.getByLabel('Depth, nearest to farthest part').fill('1.4')
  await page.getByLabel('Blur allowed').fill('6')
  await expect(verdict(page)).toHaveText('One frame at f/11 is enough')
  await page.getByRole('button', { name: 'Set f/11' }).click()
  await expect(page.getByLabel('Aperture, as marked')).toHaveValue('11')
  await expect(page.getByText('You do not need a series')).toBeVisible()
})

test('depth from two readings, in fractions of an inch or on the dial', async ({ page }) => {
  await page.goto('/shoots/new')
  await page.getByText('From two readings…').click()
  await page.getByLabel('Nearest reading').fill('3 5/16"')
  await page.getByLabel('Farthest reading').fill('3 11/16"')
  await page.getByRole('button', { name: 'Take 9.53 mm of depth' }).click()
  await expect(page.getByLabel('Depth, nearest to farthest part')).toHaveValue('9.525')
  await page.getByLabel('rail’s dial').click()
  const far = page.getByRole('group', { name: 'Farthest part sharp' })
  await far.getByLabel('turns').fill('11')
  await far.getByLabel('marks').fill('25')
  await page.getByRole('group', { name: 'Nearest part sharp' }).getByLabel('marks').fill('0')
  await page.getByRole('button', { name: 'Take 5.75 mm of depth' }).click()
  await expect(page.getByLabel('Depth, nearest to farthest part')).toHaveValue('5.75')
})

test('what cannot be is said at its field, in one sentence, with what would be possible', async ({ page }) => {
  await page.goto('/shoots/new')
  const depth = page.getByLabel('Depth, nearest to farthest part')
  await depth.fill('400')
  await expect(alertWith(page, 'the rail has 100 mm')).toBeVisible()
  await depth.fill('12 mm 3"')
  await expect(alertWith(page, 'This is not a length')).toBeVisible()
  await depth.fill('-3')
  await expect(alertWith(page, 'This is not a length')).toBeVisible()
  await depth.fill('99999999')
  await expect(alertWith(page, 'The limit is 2000')).toBeVisible()
  await depth.fill('9')
  await page.getByLabel('Aperture, as marked').fill('2')
  await expect(alertWith(page, 'from f/2.8 to f/32')).toBeVisible()
  await page.getByLabel('Aperture, as marked').fill('8')
  await page.getByLabel('Magnification', { exact: true }).fill('1.5')
  await expect(alertWith(page, 'reaches 1 : 1 on its own')).toBeVisible()
  await page.getByLabel('Magnification', { exact: true }).fill('1')
  await page.getByText('By distances').click()
  await page.getByLabel('Farthest point').fill('0.4')
  await expect(alertWith(page, 'Swap the two')).toBeVisible()
  await expect(page.getByRole('button', { name: /Save the plan/ })).toBeDisabled()
  await page.getByLabel('Farthest point').fill('')
  await page.getByLabel('Nearest point', { exact: true }).fill('0.05')
  await expect(alertWith(page, 'must be more than 96 mm from the sensor')).toBeVisible()
})

for (const width of [1280, 390]) {
  test(`the whole plan is made by keyboard at ${width} px`, async ({ page }) => {
    await page.setViewportSize({ width, height: 844 })
    await page.goto('/shoots/new')
    await page.getByLabel('Title').focus()
    await page.keyboard.type(`Seed, by keyboard ${width}`)
    await page.keyboard.press('Tab')
    await expect(page.getByLabel('Close up, by depth')).toBeFocused()
    await page.keyboard.press('Tab')
    await page.keyboard.press('Control+A')
    await page.keyboard.type('4.25')
    await expect(page.getByLabel('Depth, nearest to farthest part')).toHaveValue('4.25')

    // From field to field, none skipped: measuring aid, width, background, notes, the kit, and on to the aperture.
    for (
      let presses = 0;
      presses < 14 && !(await page.getByLabel('Aperture, as marked').evaluate((field) => field === document.activeElement));
      presses++
    ) {
      await page.keyboard.press('Tab')
    }
    await expect(page.getByLabel('Aperture, as marked')).toBeFocused()
    await page.keyboard.press('Control+A')
    await page.keyboard.type('11')
    await page.keyboard.press('Tab')
    await expect(page.getByLabel('Set the size with')).toBeFocused()
    await page.keyboard.press('ArrowDown')
    await page.keyboard.type('')
    await page.keyboard.press('Escape')
    await expect(page.getByTestId('working-aperture')).toContainText('f/22')

    // The ribbon and the panels too.
    await page.getByRole('group', { name: /^Depth ribbon/ }).focus()
    await page.keyboard.press('ArrowRight')
    await page.keyboard.press('ArrowRight')
    await expect(page.locator('[data-slice="1"]')).toHaveClass(/chosen/)
    await page.getByRole('tab', { name: 'Figures' }).focus()
    await page.keyboard.press('ArrowRight')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('tab', { name: 'Aperture and blur' })).toHaveAttribute('aria-selected', 'true')

    // Enter in a field keeps nothing; the button does.
    await page.getByLabel('Title').focus()
    await page.keyboard.press('Enter')
    await expect(page).toHaveURL(/shoots\/new$/)
    await page.getByRole('button', { name: 'Save the plan and start shooting' }).focus()
    await page.keyboard.press('Enter')
    await expect(page.getByRole('heading', { name: `Seed, by keyboard ${width}` })).toBeVisible()
    const overflow = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth)
    expect(overflow).toBeLessThanOrEqual(0)
  })
}

test('fast typing loses neither focus nor a keystroke, however long the series', async ({ page }) => {
  await page.goto('/shoots/new')
  await choose(page, 'Rail', 'Motor rail')
  await tab(page, 'Every frame')
  await page.getByLabel('Depth, nearest to farthest part').fill('60')
  await page.getByLabel('Overlap of neighbouring slices').fill('50')
  const notes = page.getByLabel('Notes')
  const sentence = 'Light from the left; the wing stands on a pin, and the pin in clay.'
  await notes.pressSequentially(sentence, { delay: 0 })
  await expect(notes).toHaveValue(sentence)
  const depth = page.getByLabel('Depth, nearest to farthest part')
  await depth.press('Control+A')
  await depth.pressSequentially('51.23456', { delay: 0 })
  await expect(depth).toHaveValue('51.23456')
  await expect(depth).toBeFocused()
})
