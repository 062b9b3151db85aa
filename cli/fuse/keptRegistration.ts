import { readFile, stat } from 'node:fs/promises'
import { fileURLToPath } from 'node:url'
import { deserialize, serialize } from 'node:v8'
import { writeWhole } from '@/codec'
import type { FrameFile, FuseSettings } from '@/schemas'
import type { Registered } from './registerSeries'

/** The built command: another version registers again. */
const PROGRAM = fileURLToPath(new URL('nitidus.mjs', import.meta.url))

/** Settings that do not change the registration. */
const ASKED_LATER = ['style', 'bits', 'crop', 'prefer', 'boundary', 'neighbourhood', 'floor', 'finest', 'sharp'] as const

interface Kept {
  of: string
  registered: Registered
}

/**
 * Stores the result of `register` in a file, so that a fuse that was stopped later, or one in another style, does not register again. It
 * registers again if a frame, a setting that matters, or this program changed.
 */
export async function keptRegistration(
  file: string | undefined,
  frames: FrameFile[],
  settings: FuseSettings,
  register: () => Promise<Registered>,
): Promise<Registered> {
  if (file === undefined || !settings.register) return register()
  const of = await madeOf(frames, settings)
  const kept = await readKept(file)
  if (kept?.of === of) return kept.registered
  const registered = await register()
  const keeping: Kept = { of, registered }
  await writeWhole(file, serialize(keeping))
  return registered
}

/** Undefined where there is none, or it cannot be read: then it is made again. */
async function readKept(file: string): Promise<Kept | undefined> {
  try {
    return deserialize(await readFile(file)) as Kept
  } catch {
    return undefined
  }
}

/** Everything that a registration hangs on, in one line. */
async function madeOf(frames: FrameFile[], settings: FuseSettings): Promise<string> {
  const files = [PROGRAM, ...frames.map(({ file }) => file)]
  const facts = await Promise.all(files.map(async (file) => [file, await stat(file)] as const))
  const asked = Object.entries(settings).filter(([name]) => !(ASKED_LATER as readonly string[]).includes(name))
  return JSON.stringify([asked.sort(), facts.map(([file, { size, mtimeMs }]) => [file, size, mtimeMs])])
}
