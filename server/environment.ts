import path from 'node:path'
import Joi from 'joi'
import { check } from '@/schemas'

export interface Environment {
  /** Folder of the database and all pictures. */
  dataFolder: string
  /** Folder of this machine that frames may be imported from by name. */
  importRoot: string
  /** Most that pictures may take, in MB; no limit where absent. */
  quota_MB?: number
  /** The `nitidus` command that heavy work runs in. */
  engine: string
}

const schema = Joi.object({
  NITIDUS_DATA: Joi.string().default('data'),
  NITIDUS_IMPORT_ROOT: Joi.string(),
  NITIDUS_QUOTA_MB: Joi.number().min(0),
  // Read by the engine; a mistake is reported when the application starts.
  NITIDUS_MEMORY_MB: Joi.number().min(1),
  NITIDUS_ENGINE: Joi.string().default('dist/nitidus.mjs'),
}).unknown()

/** The settings taken from the environment, checked. @throws Refusal naming the variable. */
export function readEnvironment(variables: NodeJS.ProcessEnv = process.env): Environment {
  const value = check<Record<string, string> & { NITIDUS_QUOTA_MB?: number }>(schema, variables)
  const dataFolder = path.resolve(/* turbopackIgnore: true */ value.NITIDUS_DATA)
  return {
    dataFolder,
    importRoot: path.resolve(/* turbopackIgnore: true */ value.NITIDUS_IMPORT_ROOT ?? path.join(dataFolder, 'import')),
    quota_MB: value.NITIDUS_QUOTA_MB,
    engine: path.resolve(/* turbopackIgnore: true */ value.NITIDUS_ENGINE),
  }
}
