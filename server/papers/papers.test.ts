import { execFileSync } from 'node:child_process'
import { writeFile } from 'node:fs/promises'
import path from 'node:path'
import { Readable } from 'node:stream'
import { AS_IT_IS } from '@/core/finish'
import { captionFactsOf, contactOf, contactPdf, finishedFile, recordOf, recordPdf, renderOf } from '..'
import { ownServer } from '../testRun'
import { picture } from '../testServer'

const { server, run, fuse } = ownServer()

/** The words of a PDF and how many pages and pictures it has, by readers that are not ours. */
async function read(pdf: Buffer): Promise<{ text: string; pages: number; pictures: number }> {
  const file = path.join(server().folder, 'paper.pdf')
  await writeFile(file, pdf)
  const tool = (name: string, ...args: string[]) => execFileSync(name, args, { encoding: 'utf8' })
  return {
    text: tool('pdftotext', '-layout', file, '-'),
    pages: Number(tool('pdfinfo', file).match(/Pages:\s+(\d+)/)![1]),
    pictures: tool('pdfimages', '-list', file).trim().split('\n').length - 2,
  }
}

test('a contact sheet shows every frame with its number and name, and says which was left out', async () => {
  const { shootId, runId } = await run(7)
  const { shoots, store, db } = server().context
  const [{ frames }] = (await shoots.detail(shootId)).runs
  await shoots.setAside(frames[2].id, true)
  const contact = await contactOf(db, store, await shoots.detail(shootId), runId, 'metric')
  const { text, pages, pictures } = await read(await contactPdf(contact))
  expect([pages, pictures]).toEqual([1, 7])
  for (const [k, { name }] of frames.entries()) expect(text).toMatch(new RegExp(`${k + 1}\\s+${name}`))
  expect(text).toContain('7 frames, 6 used')
  expect(text.match(/left out by hand/g)).toHaveLength(1)
})

test('hundreds of frames go on over further pages, none left out', async () => {
  const { shootId, runId } = await run(1)
  const { shoots, store, db } = server().context
  const contact = await contactOf(db, store, await shoots.detail(shootId), runId, 'metric')
  const frames = Array.from({ length: 143 }, (_, k) => ({ ...contact.frames[0], number: k + 1, file: `frame_${k + 1}.jpg` }))
  const { text, pages } = await read(await contactPdf({ ...contact, frames }))
  expect(pages).toBeGreaterThan(3)
  expect(new Set(text.match(/frame_\d+\.jpg/g)).size).toBe(143)
})

test('a record tells plan, run, survey, settings and recipe on one page, in the units asked for', async () => {
  const { shootId, runId } = await run(2)
  const { shoots, store, db, kit, recipes } = server().context
  for (const [k, position_mm] of [0, 3].entries()) await store.add(runId, `p${k}.jpg`, Readable.from([await picture(64, 48, `#4${k}4`)]), position_mm)
  const { render } = await fuse(runId)
  await recipes.set(render, {
    steps: [
      { do: 'light', stops: 0.5 },
      { do: 'colour', strength: 0, off: true },
    ],
    profile: 'keep',
    bits: 16,
    quality: 92,
  })
  const shoot = await shoots.detail(shootId)
  const record = async (system: 'metric' | 'inches') => read(await recordPdf(await recordOf(db, store, await kit.all(), shoot, render, system)))
  const { text, pages, pictures } = await record('metric')
  expect([pages, pictures]).toEqual([1, 1])
  expect(text).toContain(shoot.title)
  for (const word of ['Planned', 'Magnification', 'Shot', 'Fused', '0.5 stops lighter', '64 × 48 px']) expect(text).toContain(word)
  // What is switched off was not done.
  expect(text).not.toContain('Without colour')
  expect((await record('inches')).text).toMatch(/\d in\b|″/)
})

test('a caption knows what is known of a render, and nothing else', async () => {
  const { shootId, runId } = await run(3)
  const { render } = await fuse(runId)
  const { db, shoots } = server().context
  const shoot = await shoots.detail(shootId)
  const facts = await captionFactsOf(db, await renderOf(db, render))
  expect(facts).toMatchObject({ title: shoot.title, subject: shoot.subject, frames: '3 frames', style: 'Auto' })
  expect(facts.magnification).toMatch(/ : 1$/)
  // These frames say nothing of a lens, and their positions are not known.
  expect([facts.lens, facts.depth]).toEqual([undefined, undefined])
})

test('a caption in a recipe is filled in for each picture that it finishes', async () => {
  const { runId, shootId } = await run(2)
  const { render } = await fuse(runId)
  const { db, jobs, work, store, shoots } = server().context
  const recipe = { ...AS_IT_IS, steps: [{ do: 'caption' as const, text: '{title}, {lens}', tone: 'light' as const }] }
  const { name } = await jobs.outcome<'finish'>(await work.finish(render, { recipe, format: 'png' }))
  const { file } = await finishedFile(db, store.folders, render, name)
  const told = execFileSync('exiftool', ['-ImageHeight', '-Description', '-s3', file], { encoding: 'utf8' }).trim().split('\n')
  expect(Number(told[0])).toBeGreaterThan(48)
  expect(told[1]).toBe(`Caption: ${(await shoots.detail(shootId)).title}`.slice(0, 'Caption: '.length + 40))
})
