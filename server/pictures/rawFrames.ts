import { createHash } from 'node:crypto'
import { mkdir, readdir, rm, stat, utimes } from 'node:fs/promises'
import path from 'node:path'
import { profileOf, RawReader, type RawFacts } from '@/codec'
import { isRaw } from '@/core/batch'
import type { Capture as CaptureFile, Development, NeutralPlace } from '@/core/develop'
import { profileName } from '@/core/formats'
import { refusal } from '@/core/words'
import type { Database, Folders, Frame, Tables } from '@/database'
import { storedDevelopment, type FrameFile, type RunDevelopment, type StoredColour } from '@/schemas'
import type { Transaction } from 'kysely'
import { capturesOf } from './captures'

type RawFrame = Pick<Frame, 'uid' | 'run_id' | 'name' | 'file'>

/** Raw frames: the originals never change; developed files can be made again at any time. */
export class RawFrames {
  private readonly reader: RawReader

  /** @param engine the command; the reader of raw files is next to it. */
  constructor(
    private readonly db: Database,
    private readonly folders: Folders,
    engine: string,
  ) {
    this.reader = new RawReader(path.join(path.dirname(engine), 'raw.mjs'))
  }

  /** Reads a received file through, and takes the camera's own small picture out of it. @throws Refusal where it cannot be read. */
  async look(file: string, name: string, uid: string): Promise<RawFacts> {
    await mkdir(this.folders.derived('previews'), { recursive: true })
    return this.reader.look(file, name, { preview: this.preview(uid) })
  }

  /** The first raw frame of a run says how all of them are developed. */
  async begin(transaction: Transaction<Tables>, runId: number, development: RunDevelopment): Promise<void> {
    await transaction
      .updateTable('run')
      .set({ development_json: JSON.stringify(development) })
      .where('id', '=', runId)
      .where('development_json', 'is', null)
      .execute()
  }

  /** A raw frame for the engine, which develops it if nobody has. */
  async forEngine({ id, ...frame }: RawFrame & { id: number }): Promise<FrameFile> {
    const development = await this.developmentOf(frame.run_id)
    const captures = await this.capturesOf({ id, ...frame })
    const file = this.developed(frame.uid, development, captures)
    // A file that is requested is in use.
    await utimes(file, new Date(), new Date()).catch(() => undefined)
    return { uid: frame.uid, name: frame.name, file, raw: { file: this.original(frame), development, ...(captures && { captures }) } }
  }

  /** The camera's own small picture of a raw frame, where it has one that shows what the whole one will. */
  async small(frame: RawFrame): Promise<string | undefined> {
    const preview = this.preview(frame.uid)
    if (await isThere(preview)) return preview
    const { preview: found } = await this.look(this.original(frame), frame.name, frame.uid)
    return found ? preview : undefined
  }

  /** A raw frame developed: at once where it is not yet. @throws Refusal where it cannot be read. */
  async picture(frame: RawFrame & { id: number }): Promise<string> {
    const { file, raw } = await this.forEngine(frame)
    if (await isThere(file)) return file
    await mkdir(path.dirname(file), { recursive: true })
    await this.reader.developFrame(raw!, file, frame.name)
    return file
  }

  /** A frame's captures, where it has several. @throws Refusal where one of them is gone. */
  private async capturesOf(frame: RawFrame & { id: number }): Promise<CaptureFile[] | undefined> {
    const others = await capturesOf(this.db, frame.id)
    if (others.length === 0) return undefined
    const files = others.map(({ name, file, x_px, y_px }) => ({ name, file: this.folders.frame(frame.run_id, file), x_px, y_px }))
    for (const { name, file } of files) if (!(await isThere(file))) throw refusal('frame.fileGone', { name })
    return [{ file: this.original(frame), x_px: 0, y_px: 0 }, ...files.map(({ file, x_px, y_px }) => ({ file, x_px, y_px }))]
  }

  /**
   * Develops the frames of a run as one of them was shot, or so that a place of it becomes grey.
   * @throws Refusal where it is no raw frame, has no colour there, or pictures were made of the run already.
   */
  async developLike(frame: RawFrame, neutral?: NeutralPlace): Promise<void> {
    if (!isRaw(frame.name)) throw refusal('raw.notRaw', { name: frame.name })
    const render = await this.db.selectFrom('render').select('id').where('run_id', '=', frame.run_id).executeTakeFirst()
    if (render) throw refusal('raw.rendersExist')
    const { development } = await this.reader.look(this.original(frame), frame.name, { neutral })
    const kept: RunDevelopment = { ...development, like: frame.name, ...(neutral && { neutral }) }
    await this.db
      .updateTable('run')
      .set({ development_json: JSON.stringify(kept) })
      .where('id', '=', frame.run_id)
      .execute()
  }

  /** Removes the derived files of a deleted frame. */
  async forget(uid: string): Promise<void> {
    await rm(this.preview(uid), { force: true })
    const folder = this.folders.derived('developed')
    const made = (await readdir(folder).catch(() => [])).filter((name) => name.startsWith(uid))
    await Promise.all(made.map((name) => rm(path.join(folder, name), { force: true })))
  }

  close(): Promise<void> {
    return this.reader.close()
  }

  private async developmentOf(runId: number): Promise<Development> {
    const { development_json } = await this.db.selectFrom('run').select('development_json').where('id', '=', runId).executeTakeFirstOrThrow()
    const { multipliers, headroom } = storedDevelopment(development_json!)
    return { multipliers, headroom }
  }

  private original({ run_id, file }: RawFrame): string {
    return this.folders.frame(run_id, file)
  }

  private preview(uid: string): string {
    return this.folders.derived('previews', `${uid}.jpg`)
  }

  /** Developed otherwise it is another file: nothing that was made before is taken for it. */
  private developed(uid: string, development: Development, captures?: CaptureFile[]): string {
    const places = captures?.map(({ x_px, y_px }) => [x_px, y_px])
    const how = createHash('sha256')
      .update(JSON.stringify(places ? [development, places] : development))
      .digest('hex')
      .slice(0, 8)
    return this.folders.derived('developed', `${uid}-${how}.tif`)
  }
}

/** The colours that raw frames have once they are developed. */
export function developedColour(): StoredColour {
  const icc = profileOf('wide')
  return { model: 'rgb', profile: profileName(icc), sha256: createHash('sha256').update(icc).digest('hex') }
}

const isThere = (file: string): Promise<boolean> =>
  stat(file).then(
    (found) => found.size > 0,
    () => false,
  )
