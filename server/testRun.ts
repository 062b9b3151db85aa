import { picture, TestServer } from './testServer'

/** The quickest settings there are: for tests of what stands around the engine. */
export const QUICK = { style: 'auto', bits: 16, crop: 'none', register: false, localWarp: 'never' } as const

/** A run of small frames that can be fused, and the pictures. */
export async function smallRun(server: TestServer, count = 3): Promise<{ shootId: number; runId: number; pictures: Buffer[] }> {
  const shootId = await server.newShoot()
  const runId = await server.context.shoots.addRun(shootId, 'imported')
  const pictures = await Promise.all(Array.from({ length: count }, (_, k) => picture(64, 48, `#${k + 1}${k + 1}${k + 1}`)))
  for (const [k, contents] of pictures.entries()) await server.add(runId, `f${k}.jpg`, contents)
  return { shootId, runId, pictures }
}

/** Fuses a run and answers its render. */
export const fuseNow = async ({ context }: TestServer, runId: number) => context.jobs.outcome<'fuse'>(await context.work.fuse(runId, QUICK))

/** A server of its own for every test of a file, with ways to make and fuse runs on it. */
export function ownServer() {
  let started: TestServer | undefined
  beforeEach(async () => {
    started = await TestServer.start()
  })
  afterEach(() => started?.stop())
  const server = () => {
    if (!started) throw new Error('The server runs while a test does.')
    return started
  }
  return { server, run: (count?: number) => smallRun(server(), count), fuse: (runId: number) => fuseNow(server(), runId) }
}
