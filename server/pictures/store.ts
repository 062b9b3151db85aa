import { createHash, randomUUID } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { mkdir, readdir, realpath, rename, rm, stat } from 'node:fs/promises'
import path from 'node:path'
import { Readable, Transform } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { createReadStream } from 'node:fs'
import { readExif, verifyPicture } from '@/codec'
import { InputError } from '@/schemas'
import { now, type Database, type Frame } from '../database'
import type { Environment } from '../environment'
import { Folders, safeName } from './folders'

const PICTURE = /\.(jpe?g|png|tiff?)$/i

/** Takes frames in: checked, checksummed, untouched, and either stored whole or not at all. */
export class PictureStore {
  readonly folders: Folders

  constructor(
    private readonly db: Database,
    private readonly environment: Environment,
  ) {
    this.folders = new Folders(environment.dataFolder)
  }

  /**
   * Stores one frame of a run from a stream of its bytes.
   * @throws InputError where the file is no complete picture, does not fit the run, or there is no room.
   */
  async add(runId: number, name: string, bytes: Readable, position_mm: number | null = null): Promise<Frame> {
    safeName(name)
    if (!PICTURE.test(name)) throw new InputError(`${name} is not a JPEG, PNG or TIFF file; bring one of these.`)
    await mkdir(this.folders.incoming(), { recursive: true })
    const part = path.join(this.folders.incoming(), `${randomUUID()}${path.extname(name).toLowerCase()}`)
    try {
      const { size, sha256 } = await this.receive(bytes, part)
      if (size === 0) throw new InputError(`${name} is empty; copy it from the card again.`)
      const facts = await verifyPicture(part).catch((error: Error) => {
        throw new InputError(error.message.replace(path.basename(part), name))
      })
      const exif = readExif(facts.exif)
      const row = {
        run_id: runId,
        name,
        sha256,
        bytes: size,
        width: facts.width,
        height: facts.height,
        bits: facts.bits,
        exif_json: exif && JSON.stringify(exif),
        position_mm,
        created_at: now(),
      }
      await this.checkFits(runId, row)
      await mkdir(this.folders.frames(runId), { recursive: true })
      // The row first: where the name is taken meanwhile, the file that is there is not overwritten.
      return await this.db.transaction().execute(async (transaction) => {
        const frame = await transaction.insertInto('frame').values(row).returningAll().executeTakeFirstOrThrow()
        await rename(part, this.folders.frame(runId, name))
        // What a survey found no longer holds for all frames.
        await transaction.updateTable('run').set({ survey_json: null }).where('id', '=', runId).execute()
        return frame
      })
    } catch (error) {
      throw fullDisk(error) ?? error
    } finally {
      await rm(part, { force: true })
    }
  }

  /** Imports every picture of a folder inside the allowed root, in the order of their names. */
  async addFolder(runId: number, folder: string, onFrame?: (name: string) => void): Promise<Frame[]> {
    const inside = await this.allowedFolder(folder)
    const names = (await readdir(inside))
      .filter((name) => PICTURE.test(name) && !name.startsWith('.'))
      .sort(new Intl.Collator('en', { numeric: true }).compare)
    if (names.length === 0) throw new InputError(`${folder} holds no JPEG, PNG or TIFF files; give the folder that holds the frames.`)
    const frames: Frame[] = []
    for (const name of names) {
      frames.push(await this.add(runId, name, createReadStream(path.join(inside, name))))
      onFrame?.(name)
    }
    return frames
  }

  /** @throws InputError where the quota leaves no room for `bytes` more. */
  async checkRoom(bytes: number): Promise<void> {
    const { quota_MB } = this.environment
    if (quota_MB === undefined) return
    const frames = await this.db
      .selectFrom('frame')
      .select((e) => e.fn.sum<number | null>('bytes').as('sum'))
      .executeTakeFirstOrThrow()
    const renders = await this.db
      .selectFrom('render')
      .select((e) => e.fn.sum<number | null>('bytes').as('sum'))
      .executeTakeFirstOrThrow()
    const used = Number(frames.sum ?? 0) + Number(renders.sum ?? 0)
    if (used + bytes > quota_MB * 1e6) {
      throw new InputError(
        `There is no room left: ${(used / 1e6).toFixed(0)} of ${quota_MB} MB are used. Make room or raise the quota, then try again.`,
      )
    }
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
    await pipeline(bytes, meter, createWriteStream(part))
    return { size, sha256: hash.digest('hex') }
  }

  private async checkFits(runId: number, { name, width, height }: Pick<Frame, 'name' | 'width' | 'height'>): Promise<void> {
    const frames = await this.db.selectFrom('frame').select(['name', 'width', 'height']).where('run_id', '=', runId).execute()
    if (frames.some((frame) => frame.name === name)) throw new InputError(`${name} is in this run already; rename the file or start another run.`)
    const other = frames.find((frame) => frame.width !== width || frame.height !== height)
    if (other)
      throw new InputError(
        `${name} is ${width} × ${height} px and ${other.name} is ${other.width} × ${other.height} px; all frames of a run must have one size.`,
      )
  }

  private async allowedFolder(folder: string): Promise<string> {
    const root = await realpath(this.environment.importRoot).catch(() => {
      throw new InputError(`The import folder ${this.environment.importRoot} does not exist; create it and put the frames there.`)
    })
    const inside = await realpath(path.resolve(/* turbopackIgnore: true */ root, folder)).catch(() => undefined)
    if (!inside || (inside !== root && !inside.startsWith(root + path.sep))) {
      throw new InputError(`${folder} is not a folder inside ${root}; only folders in there can be imported.`)
    }
    if (!(await stat(inside)).isDirectory()) throw new InputError(`${folder} is a file; give the folder that holds the frames.`)
    return inside
  }
}

/** What a full disk means for the user, or undefined for other errors. */
export function fullDisk(error: unknown): InputError | undefined {
  const code = (error as NodeJS.ErrnoException).code
  return code === 'ENOSPC' || code === 'EDQUOT' ? new InputError('The disk is full; make room and try again. Nothing was half stored.') : undefined
}
