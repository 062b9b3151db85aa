import { spawnSync } from 'node:child_process'
import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { Readable } from 'node:stream'
import sharp from 'sharp'
import { FOSSIL } from '@/demo/scenario'
import { openContext, readEnvironment, type Context } from '.'

export const demoShoot = FOSSIL

/** A server on a data folder of its own, for one test. */
export class TestServer {
  readonly folder: string
  context!: Context

  private constructor(folder: string) {
    this.folder = folder
  }

  /** `base` is where its data folder is made: another disk, say. */
  static async start(base = tmpdir()): Promise<TestServer> {
    const server = new TestServer(await mkdtemp(path.join(base, 'server-')))
    await server.open()
    return server
  }

  /** The same data folder opened once more, as after a restart, with other settings. */
  async open(change: Record<string, string> = {}): Promise<Context> {
    await this.context?.close()
    this.context = await openContext(readEnvironment({ NITIDUS_DATA: this.folder, ...change } as unknown as NodeJS.ProcessEnv))
    return this.context
  }

  async stop(): Promise<void> {
    await this.context.jobs.idle()
    await this.context.close()
    await rm(this.folder, { recursive: true })
  }

  newShoot(): Promise<number> {
    return this.context.shoots.create(demoShoot)
  }

  async newRun(): Promise<number> {
    return this.context.shoots.addRun(await this.newShoot(), 'imported')
  }

  add(runId: number, name: string, contents: Buffer, into = this.context) {
    return into.store.add(runId, name, Readable.from([contents]))
  }

  /** Brings every picture of a folder into a run, one after the other; what is refused is listed. */
  async addFolder(runId: number, folder: string): Promise<{ taken: number; refused: { name: string; code: string }[] }> {
    const { store } = this.context
    const { from, kept, refused } = await store.filesIn(folder)
    const all: { name: string; code: string }[] = refused
    let taken = 0
    for (const { name } of kept)
      await store.bringFrom(from, runId, name).then(
        () => taken++,
        (error: { code: string }) => all.push({ name, code: error.code }),
      )
    return { taken, refused: all.sort((a, b) => (a.name < b.name ? -1 : 1)) }
  }

  async framesOf(runId: number): Promise<string[]> {
    const frames = await this.context.db.selectFrom('frame').select('name').where('run_id', '=', runId).orderBy('id').execute()
    return frames.map(({ name }) => name)
  }
}

/** Processes of the engine that this server started, found by its data folder, which no other has. */
export function enginePids({ folder }: TestServer): number[] {
  const { stdout } = spawnSync('pgrep', ['-P', String(process.pid), '-f', folder], { encoding: 'utf8' })
  return stdout.split('\n').filter(Boolean).map(Number)
}

/** A JPEG of one colour. */
export const picture = (width = 60, height = 40, background = '#7a6') =>
  sharp({ create: { width, height, channels: 3, background } })
    .jpeg()
    .toBuffer()

/** What a refusal of this code looks like. */
export const refusedWith = (code: string) => expect.objectContaining({ name: 'Refusal', code })
