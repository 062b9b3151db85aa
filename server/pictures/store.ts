import { createHash, randomUUID } from 'node:crypto'
import { createReadStream, createWriteStream } from 'node:fs'
import { mkdir, open, rename, rm, stat } from 'node:fs/promises'
import path from 'node:path'
import { Transform, type Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { isPicture, isRaw, sortBySize, withoutPairs } from '@/core/batch'
import { refusal, say, type Sentence } from '@/core/words'
import { explained, Folders, now, type Database, type Frame, type Tables } from '@/database'
import type { FrameFile } from '@/schemas'
import { sql, type Transaction } from 'kysely'
import type { Environment } from '../environment'
import { openImport, regularFile, sizedFile, type ImportFolder } from './importFolder'
import { capturesOfRun } from './captures'
import { plainName, storedName } from './names'
import { RawFrames } from './rawFrames'
import { checkFits, factsOf } from './received'

/** What a folder holds: the pictures that may be taken, with their sizes, and those that are left, with why. */
export interface FolderFiles {
  from: ImportFolder
  kept: { name: string; bytes: number }[]
  refused: ({ name: string } & Sentence)[]
}

/** Takes frames in: checked, checksummed, untouched, and either stored whole or not at all. */
export class PictureStore {
  readonly folders: Folders
  readonly raw: RawFrames

  constructor(
    private readonly db: Database,
    private readonly environment: Environment,
  ) {
    this.folders = new Folders(environment.dataFolder)
    this.raw = new RawFrames(db, this.folders, environment.engine)
  }

  /**
   * Stores one frame of a run from a stream of its bytes; it is on the disk for good when this answers. The file of a frame that
   * is gone or damaged is put back where the same bytes are brought under the same name.
   * @throws Refusal where the file is no complete picture, does not fit the run, or there is no room.
   */
  add(runId: number, name: string, bytes: Readable, position_mm: number | null = null): Promise<Frame> {
    return this.take(runId, name, bytes, { position_mm })
  }

  /** The same for a file that somebody brings: one that is in the run already under another name is refused, by its bytes. */
  bring(runId: number, name: string, bytes: Readable): Promise<Frame> {
    return this.take(runId, name, bytes, { position_mm: null, once: true })
  }

  private async take(
    runId: number,
    name: string,
    bytes: Readable,
    { position_mm, once }: { position_mm: number | null; once?: boolean },
  ): Promise<Frame> {
    plainName(name)
    if (!isPicture(name)) throw refusal('picture.ending', { name })
    await this.checkRun(this.db, runId)
    const part = path.join(this.folders.incoming(), `${randomUUID()}${path.extname(name).toLowerCase()}`)
    try {
      await mkdir(this.folders.incoming(), { recursive: true })
      const { size, sha256 } = await this.receive(bytes, part)
      if (size === 0) throw refusal('picture.empty', { name })
      const uid = randomUUID()
      const { taken, colour, development, ...facts } = await factsOf(this.raw, part, name, uid)
      const row = {
        uid,
        run_id: runId,
        name,
        sha256,
        bytes: size,
        ...facts,
        colour_json: JSON.stringify(colour),
        exif_json: taken && JSON.stringify(taken),
        position_mm,
        created_at: now(),
      }
      await mkdir(this.folders.frames(runId), { recursive: true })
      // Whether it fits is asked where nothing else is written meanwhile: two frames that come at once see each other.
      return await this.db.transaction().execute(async (transaction) => {
        await this.checkRun(transaction, runId)
        const lost = await this.lostFrame(transaction, row)
        if (lost) {
          await this.putInPlace(part, this.folders.frame(runId, lost.file))
          return lost
        }
        const others = await this.touching(transaction, row)
        const captures = await capturesOfRun(transaction, runId)
        const twin = once && [...others.filter(({ binned_at }) => binned_at === null), ...captures].find((other) => other.sha256 === sha256)
        if (twin) throw refusal('frame.twice', { name, twin: twin.name })
        checkFits(row, colour, others, captures)
        const file = storedName(name, row.uid, [...others, ...captures])
        const frame = await transaction
          .insertInto('frame')
          .values({ ...row, file })
          .returningAll()
          .executeTakeFirstOrThrow()
        if (development) await this.raw.begin(transaction, runId, development)
        await this.putInPlace(part, this.folders.frame(runId, file))
        // What a survey found no longer holds for all frames.
        await transaction.updateTable('run').set({ survey_json: null }).where('id', '=', runId).execute()
        return frame
      })
    } catch (error) {
      throw explained(error)
    } finally {
      await rm(part, { force: true })
    }
  }

  /**
   * The pictures of a folder inside the allowed root, in the order of their names, and those that are left with why.
   * @throws Refusal where the folder leads out of the root, is none, or holds no pictures.
   */
  async filesIn(folder: string): Promise<FolderFiles> {
    const { names, ...from } = await openImport(this.environment.importRoot, folder)
    const { kept: frames, pairs } = withoutPairs(names.map((name) => ({ name })))
    // Sizes are looked at before anything is stored: the first file may be the stray one.
    const { kept, strays } = sortBySize(await Promise.all(frames.map(({ name }) => sizedFile(from, name))))
    const refused = [
      ...pairs.map(({ file: { name }, raw }) => ({ name, ...say('raw.pair', { name, raw }) })),
      ...strays.map(({ file: { name }, size, usual }) => ({ name, ...say('frame.stray', { name, size, usual }) })),
    ]
    const sized = kept.map(async ({ name }) => ({ name, bytes: await stat(path.join(from.inside, name)).then(({ size }) => size, () => 0) })) // prettier-ignore
    return { from, kept: await Promise.all(sized), refused: refused.sort((a, b) => names.indexOf(a.name) - names.indexOf(b.name)) }
  }

  /** Brings a file of such a folder. @throws Refusal as `bring`; what the disk says where the file is gone. */
  async bringFrom(from: ImportFolder, runId: number, name: string): Promise<Frame> {
    return this.bring(runId, name, createReadStream(await regularFile(from, name)))
  }

  /** What the files of a run were called, further captures of its frames included. */
  async namesIn(runId: number): Promise<Set<string>> {
    const frames = await this.db.selectFrom('frame').select('name').where('run_id', '=', runId).execute()
    return new Set([...frames, ...(await capturesOfRun(this.db, runId))].map(({ name }) => name))
  }

  /**
   * A frame for the engine, its file found to be there. A raw frame may have to be developed first, as it says.
   * @throws Refusal where it is gone or was emptied.
   */
  async fileOf(frame: Frame): Promise<FrameFile> {
    const { uid, run_id, name, file } = frame
    if (!(await this.isHere(frame))) throw refusal('frame.fileGone', { name })
    return isRaw(name) ? this.raw.forEngine(frame) : { uid, name, file: this.folders.frame(run_id, file) }
  }

  /** The same for a look at the whole of it, small: of raw frames the camera's own picture. @throws Refusal where it is gone. */
  async smallOf(frame: Frame): Promise<FrameFile> {
    const whole = await this.fileOf(frame)
    const small = whole.raw && (await this.raw.small(frame))
    return small ? { uid: frame.uid, name: frame.name, file: small } : whole
  }

  /** A picture that shows a frame small, to be read at once. @throws Refusal where the frame is gone. */
  async shownOf(frame: Frame): Promise<string> {
    const { file, raw } = await this.smallOf(frame)
    return raw ? this.raw.picture(frame) : file
  }

  /** A frame as a picture that can be read at once: a raw one is developed. @throws Refusal where it is gone. */
  async pictureOf(frame: Frame): Promise<string> {
    const { file, raw } = await this.fileOf(frame)
    return raw ? this.raw.picture(frame) : file
  }

  /** Whether a frame's file is there, as long as it should be. */
  async isHere({ run_id, file, bytes }: Pick<Frame, 'run_id' | 'file' | 'bytes'>): Promise<boolean> {
    const found = await stat(this.folders.frame(run_id, file)).catch(() => undefined)
    return found?.isFile() === true && found.size === bytes
  }

  /** @throws Refusal where the quota leaves no room for `bytes` more. */
  async checkRoom(bytes: number): Promise<void> {
    const { quota_MB } = this.environment
    if (quota_MB === undefined) return
    const used = (await this.sumOf('frame')) + (await this.sumOf('capture')) + (await this.sumOf('render'))
    if (used + bytes > quota_MB * 1e6) throw refusal('disk.quota', { used_MB: Math.round(used / 1e6), quota_MB })
  }

  /** Bytes of all originals, further captures or renders, those in the bin included. */
  async sumOf(table: 'frame' | 'capture' | 'render'): Promise<number> {
    const { sum } = await this.db
      .selectFrom(table)
      .select((e) => e.fn.sum<number | null>('bytes').as('sum'))
      .executeTakeFirstOrThrow()
    return Number(sum ?? 0)
  }

  /** Of a run's other frames those that say whether one can join them: what it would be taken for, and one each that it does not fit. */
  private async touching(db: Transaction<Tables>, row: Omit<Frame, 'id' | 'file' | 'aside' | 'binned_at' | 'captures_bytes'>): Promise<Frame[]> {
    const { run_id, name, sha256, width, height, colour_json } = row
    const others = db.selectFrom('frame').selectAll().where('run_id', '=', run_id)
    const found = await Promise.all([
      others.where((e) => e.or([e('name', '=', name), e(sql`lower(file)`, '=', name.toLowerCase()), e('sha256', '=', sha256)])).execute(),
      others
        .where((e) => e.or([e('width', '!=', width), e('height', '!=', height)]))
        .limit(1)
        .execute(),
      others.where('colour_json', '!=', colour_json).limit(1).execute(),
    ])
    return found.flat()
  }

  private async checkRun(db: Database | Transaction<Tables>, runId: number): Promise<void> {
    const run = await db
      .selectFrom('run')
      .innerJoin('shoot', 'shoot.id', 'run.shoot_id')
      .select('run.id')
      .where('run.id', '=', runId)
      .where('run.binned_at', 'is', null)
      .where('shoot.binned_at', 'is', null)
      .executeTakeFirst()
    if (!run) throw refusal('run.gone')
  }

  /** The frame with these bytes, if its file is missing or damaged, or if it is in the bin; then it is taken out of the bin. */
  private async lostFrame(db: Transaction<Tables>, row: Pick<Frame, 'run_id' | 'name' | 'sha256'>): Promise<Frame | undefined> {
    const known = await db.selectFrom('frame').selectAll().where('run_id', '=', row.run_id).where('name', '=', row.name).executeTakeFirst()
    if (!known) return this.lostCapture(db, row)
    const same = known.sha256 === row.sha256
    if (known.binned_at !== null && same) {
      await db.updateTable('frame').set({ binned_at: null }).where('id', '=', known.id).execute()
      // The survey was made without it.
      await db.updateTable('run').set({ survey_json: null }).where('id', '=', row.run_id).execute()
      return known
    }
    if (known.binned_at !== null || (await this.isWhole(known))) return undefined
    if (!same) throw refusal('frame.otherFile', { name: row.name })
    return known
  }

  /** The same for a capture of a frame, whose file is restored. */
  private async lostCapture(
    db: Transaction<Tables>,
    { run_id, name, sha256 }: Pick<Frame, 'run_id' | 'name' | 'sha256'>,
  ): Promise<Frame | undefined> {
    const capture = (await capturesOfRun(db, run_id)).find((other) => other.name === name && other.sha256 === sha256)
    if (!capture || (await this.isWhole({ ...capture, run_id }))) return undefined
    const frame = await db.selectFrom('frame').selectAll().where('id', '=', capture.frame_id).executeTakeFirstOrThrow()
    return { ...frame, file: capture.file }
  }

  private async isWhole(original: Pick<Frame, 'run_id' | 'file' | 'bytes' | 'sha256'>): Promise<boolean> {
    if (!(await this.isHere(original))) return false
    const hash = createHash('sha256')
    await pipeline(createReadStream(this.folders.frame(original.run_id, original.file)), hash)
    return hash.digest('hex') === original.sha256
  }

  /** Moves a received file to its place; both the file and its name are on the disk when this answers. */
  private async putInPlace(part: string, place: string): Promise<void> {
    await rename(part, place)
    const folder = await open(path.dirname(place), 'r')
    // Some systems cannot flush a folder; there the name is safe without.
    await folder
      .sync()
      .catch(() => undefined)
      .finally(() => folder.close())
  }

  private async receive(bytes: Readable, part: string): Promise<{ size: number; sha256: string }> {
    await this.checkRoom(0)
    const hash = createHash('sha256')
    let size = 0
    let sinceCheck = 0
    const meter = new Transform({
      transform: (chunk: Buffer, _, done) => {
        hash.update(chunk)
        size += chunk.length
        sinceCheck += chunk.length
        if (sinceCheck < 1 << 20) return done(null, chunk)
        sinceCheck = 0
        this.checkRoom(size).then(() => done(null, chunk), done)
      },
      flush: (done) => void this.checkRoom(size).then(() => done(), done),
    })
    // Flushed before it is closed: a frame that is confirmed outlives a power cut.
    await pipeline(bytes, meter, createWriteStream(part, { flush: true }))
    return { size, sha256: hash.digest('hex') }
  }
}
