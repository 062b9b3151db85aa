import { planSheet, settingOf, type MoverSetting, type PlanSheet } from '@/core/sheet'
import { isRefusal } from '@/core/words'
import type { Database, Frame, Run } from '@/database'
import {
  storedColour,
  storedDevelopment,
  storedKit,
  storedPlan,
  storedSheet,
  storedSurvey,
  storedTaken,
  type FrameDetail,
  type RunDetail,
} from '@/schemas'
import { captureCounts, type PictureStore } from '../pictures'
import { renderInShort } from '../renderPage'
import { framesOfRun } from './framesToFuse'

/** A run with its frames, and its renders in short. */
export async function runDetail(db: Database, store: PictureStore, run: Run): Promise<RunDetail> {
  const frames = await framesOfRun(db, run.id)
  const captures = await captureCounts(db, run.id)
  const renders = await db
    .selectFrom('render')
    .selectAll()
    .where('run_id', '=', run.id)
    .where('binned_at', 'is', null)
    .orderBy('id', 'desc')
    .execute()
  const { id, number, source, reason, begun_by, created_at, plan_json, sheet_json, kit_json, survey_json, development_json } = run
  const sheet = sheet_json ? storedSheet(sheet_json) : null
  return {
    id,
    number,
    source,
    reason,
    begun_by,
    created_at,
    planRequest: storedPlan(plan_json),
    sheet,
    setting: sheet && settingBy(sheet, kit_json),
    frames: await Promise.all(frames.map((frame) => frameDetail(store, frame, captures.get(frame.id)))),
    development: development_json ? storedDevelopment(development_json) : null,
    survey: survey_json ? storedSurvey(survey_json) : null,
    renders: renders.map(renderInShort),
  }
}

async function frameDetail(store: PictureStore, frame: Frame, captures = 1): Promise<FrameDetail> {
  const { id, uid, name, sha256, bytes, width, height, bits, position_mm, aside, created_at, exif_json, colour_json } = frame
  return {
    ...{ id, uid, name, sha256, bytes, width, height, bits, captures, position_mm, created_at },
    aside: aside === null ? null : aside === 1,
    exif: exif_json ? storedTaken(exif_json) : null,
    colour: colour_json ? colourName(colour_json) : null,
    here: await store.isHere(frame),
  }
}

/** What a sheet had the mover set to, with the kit of its time; null where that is set by eye, or it cannot be planned any more. */
function settingBy(sheet: PlanSheet, kit_json: string): MoverSetting | null {
  try {
    return settingOf(planSheet(sheet, storedKit(kit_json)), sheet) ?? null
  } catch (error) {
    if (isRefusal(error)) return null
    throw error
  }
}

function colourName(colour_json: string): string {
  const { model, profile } = storedColour(colour_json)
  const pixels = { rgb: '', grey: 'grey, ', cmyk: 'CMYK, ' }[model]
  return `${pixels}${profile ?? 'no profile'}`
}
