import { readFile } from 'node:fs/promises'
import path from 'node:path'
import { stepText } from '@/core/finish'
import type { Kit } from '@/core/kit'
import { runCardOf, storedSheetPlan } from '@/core/sheet'
import { apertureText, dateText, exposureText, lengthText, momentText, significant, type UnitSystem } from '@/core/units'
import { refusal } from '@/core/words'
import type { Database } from '@/database'
import { storedReport, type FrameDetail, type RunDetail, type ShootDetail } from '@/schemas'
import { thumbnail, type PictureStore } from '../pictures'
import { Recipes } from '../recipes'
import { renderOf } from '../renders'
import type { Contact, ContactFrame } from './contactPdf'
import type { ShootRecord } from './recordPdf'

/** Frames on a contact sheet are this large, and the picture of a record. */
const FRAME_px = 480
const PICTURE_px = 1400

/** The frames of a run for a contact sheet, in focus order where it was surveyed. Those whose file is gone are left out. */
export async function contactOf(db: Database, store: PictureStore, shoot: ShootDetail, runId: number, system: UnitSystem): Promise<Contact> {
  const run = runOf(shoot, runId)
  const places = new Map(run.survey?.frames.map(({ file }, k) => [file, k]))
  const ordered = run.frames
    .map((frame, k) => ({ frame, number: k + 1 }))
    .sort((a, b) => (places.get(a.frame.name) ?? 0) - (places.get(b.frame.name) ?? 0))
  const there = ordered.filter(({ frame }) => frame.here)
  if (there.length === 0) throw refusal('run.tooFew', { count: 0 })
  const rows = await db.selectFrom('frame').selectAll().where('run_id', '=', runId).execute()
  const frames: ContactFrame[] = []
  for (const { frame, number } of there) {
    const row = rows.find(({ id }) => id === frame.id)!
    const picture = await readFile(await thumbnail(await store.shownOf(row), store.folders.derived('thumbs', `frame-${frame.id}.jpg`), FRAME_px))
    frames.push({ picture, number, file: frame.name, ...noteOf(frame, run, system) })
  }
  const [{ frame }] = there
  const used = frames.filter(({ left }) => !left).length
  const headline = `Run ${run.number}, ${dateText(run.created_at)}: ${frames.length} frames, ${used} used`
  return { title: shoot.title, subject: shoot.subject, headline, frames, shape: frame.height / frame.width }
}

function noteOf(frame: FrameDetail, run: RunDetail, system: UnitSystem): { note: string; left: boolean } {
  const surveyed = run.survey?.frames.find(({ file }) => file === frame.name)
  const left = frame.aside ?? (surveyed !== undefined && surveyed.role !== 'use')
  const at = frame.position_mm === null ? '' : lengthText(frame.position_mm, system)
  const why = left ? (frame.aside ? 'left out by hand' : (surveyed?.reason ?? 'left out')) : ''
  return { note: [at, why].filter(Boolean).join(', '), left }
}

/** What is known of a picture, for its record. */
export async function recordOf(
  db: Database,
  store: PictureStore,
  kit: Kit,
  shoot: ShootDetail,
  renderId: number,
  system: UnitSystem,
): Promise<ShootRecord> {
  const render = await renderOf(db, renderId)
  const run = runOf(shoot, render.run_id)
  const report = storedReport(render.report_json)
  const picture = path.join(store.folders.render(render.folder), 'result.tif')
  const { steps } = await new Recipes(db).of(renderId)
  const reference = run.frames.find(({ name }) => name === report.reference)
  const used = report.frames.filter(({ role }) => role !== 'left out').length
  const exif = reference?.exif
  const taken = [
    exif?.body,
    exif?.lens,
    exif?.fNumber && apertureText(exif.fNumber),
    exif?.exposure_s && exposureText(exif.exposure_s),
    exif?.iso && `ISO ${exif.iso}`,
  ].filter(Boolean)
  const { depth, mend, colour, crop } = report
  const stored = storedSheetPlan({ sheet: run.sheet, planRequest: run.planRequest }, kit)
  const card = 'plan' in stored ? runCardOf(stored, stored.sheet, shoot, system) : undefined
  return {
    title: shoot.title,
    subject: shoot.subject,
    headline: `Record of the picture made on ${momentText(render.created_at)}`,
    picture: await readFile(await thumbnail(picture, store.folders.derived('thumbs', `record-${renderId}.jpg`), PICTURE_px)),
    plan: card ? [{ label: 'Series', value: card.headline }, ...card.settings] : [],
    run: [
      { label: 'Run', value: `${run.number}, ${dateText(exif?.taken_at ?? run.created_at)}` },
      { label: 'Frames', value: `${used} of ${run.frames.length}${reference ? `, ${reference.width} × ${reference.height} px` : ''}` },
      ...(taken.length > 0 ? [{ label: 'Taken with', value: taken.join(', ') }] : []),
      ...(depth?.unit === 'mm' ? [{ label: 'Focus went over', value: lengthText(Math.abs(depth.at65535 - depth.at0), system) }] : []),
    ],
    survey: run.survey ? (run.survey.messages.length > 0 ? run.survey.messages.map(({ text }) => text) : ['Nothing is wrong with the run.']) : [],
    fused: [
      { label: 'Style', value: `${report.style}, framed as ${report.reference}` },
      { label: 'Size', value: `${crop.width} × ${crop.height} px, ${report.settings.bits} bit` },
      { label: 'Colours', value: colour?.profile ?? 'no profile, taken as sRGB' },
      { label: 'Largest shift', value: `${significant(Math.max(...report.frames.map(({ dx_px, dy_px }) => Math.hypot(dx_px, dy_px))), 2)} px` },
      ...(mend ? [{ label: 'Mended', value: `in ${mend.edits} ${mend.edits === 1 ? 'place' : 'places'} (${mend.title})` }] : []),
    ],
    finished: steps.filter(({ off }) => !off).map(stepText),
  }
}

/** @throws Refusal where the shoot has no such run. */
function runOf(shoot: ShootDetail, runId: number): RunDetail {
  const run = shoot.runs.find(({ id }) => id === runId)
  if (!run) throw refusal('run.gone')
  return run
}
