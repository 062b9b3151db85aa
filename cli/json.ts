import { readFile } from 'node:fs/promises'
import { text } from 'node:stream/consumers'
import { refusal } from '@/core/words'

/** JSON from a file, or from standard input for `-`. @throws Refusal where there is none. */
export async function readJson(file: string): Promise<unknown> {
  const contents = await (file === '-' ? text(process.stdin) : readFile(file, 'utf8')).catch(() => {
    throw refusal('command.unreadable', { file })
  })
  try {
    return JSON.parse(contents)
  } catch {
    throw refusal('command.noJson', { file: file === '-' ? 'Standard input' : file })
  }
}
