import { isRefusal, refusal, type Refusal } from '@/core/words'

/**
 * An error of the disk or the database as a refusal that says what to do; any other error as it is. Told by codes: SQLite's
 * result codes and the system's.
 */
export function explained(error: unknown): unknown {
  return isRefusal(error) ? error : (causeOf(error) ?? error)
}

function causeOf(error: unknown): Refusal | undefined {
  const { code = '', message = '' } = (error ?? {}) as { code?: string; message?: string }
  if (code === 'ENOSPC' || code === 'EDQUOT' || code.startsWith('SQLITE_FULL')) return refusal('disk.full')
  // A full disk shows to SQLite as a failing write of its log or its journal too.
  // Libraries that write pictures have no codes, only the system's words, or none at all where a JPEG was cut short.
  if (!code && /No space left on device|Disk quota exceeded|unable to write to target/.test(message)) return refusal('disk.full')
  if (/^SQLITE_IOERR_(WRITE|SHMSIZE|SHMOPEN|FSYNC|TRUNCATE)/.test(code)) return refusal('disk.full')
  if (code.startsWith('SQLITE_CORRUPT') || code.startsWith('SQLITE_NOTADB')) return refusal('data.damaged')
  if (code.startsWith('SQLITE_BUSY') || code.startsWith('SQLITE_LOCKED')) return refusal('data.busy')
  if (code.startsWith('SQLITE_CANTOPEN') || code.startsWith('SQLITE_READONLY')) return refusal('disk.denied', { reason: message })
  if (['EACCES', 'EPERM', 'EROFS', 'ENOTDIR', 'EISDIR', 'EEXIST'].includes(code)) return refusal('disk.denied', { reason: message })
  return undefined
}
