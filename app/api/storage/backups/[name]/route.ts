import { respond, sendFile } from '../../../respond'

type Place = { params: Promise<{ name: string }> }

/** A backup to take away. */
export const GET = (_: Request, { params }: Place) =>
  respond(async ({ storage }) => {
    const { name } = await params
    return sendFile(await storage.backupFile(name), 'application/zip', { name })
  })

export const DELETE = (_: Request, { params }: Place) =>
  respond(async ({ storage }) => {
    await storage.removeBackup((await params).name)
    return undefined
  })
