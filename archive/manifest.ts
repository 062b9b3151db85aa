import Joi from 'joi'
import { DATABASE_FILE, isPlainName } from '@/database'

/** Version of archives that this version writes. */
export const ARCHIVE_VERSION = 1
export const MANIFEST_FILE = 'manifest.json'

/** What an archive holds: written last, when every checksum is known. */
export interface Manifest {
  version: number
  made_at: string
  /** Every file by its path in the archive. */
  files: Record<string, { sha256: string; bytes: number }>
  /** Files in the database that were missing when the archive was made. */
  missing: string[]
}

export const manifestSchema = Joi.object<Manifest>({
  version: Joi.number().integer().min(1).required(),
  made_at: Joi.string().isoDate().required(),
  files: Joi.object()
    .pattern(Joi.string(), Joi.object({ sha256: Joi.string().hex().length(64).required(), bytes: Joi.number().integer().min(0).required() }))
    .required(),
  missing: Joi.array().items(Joi.string()).required(),
}).unknown()

/** Whether a file has a place in an archive; nothing else is extracted. */
export function hasPlace(file: string): boolean {
  const parts = file.split('/')
  if (!parts.every(isPlainName)) return false
  const [folder, name, inner] = parts
  if (parts.length === 1) return file === DATABASE_FILE
  return folder === 'runs' ? parts.length === 4 && /^\d+$/.test(name) && inner === 'frames' : folder === 'renders' && parts.length === 3
}
