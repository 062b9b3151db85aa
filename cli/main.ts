import { Command, CommanderError } from 'commander'
import { isRefusal, say, type Sentence } from '@/core/words'
import { explained } from '@/database'
import { addBackup, addRestore } from './backup'
import { addDevelop } from './develop'
import { addFinish } from './finish/command'
import { addFuse } from './fuse/command'
import { addInspect } from './inspect/command'
import { addMend } from './mend/command'
import { addNeeded } from './needed/command'
import { addPlan } from './plan'
import { addRun } from './run'
import { addSimulate } from './simulate'
import { addSplit } from './split'
import { addStandIn } from './standIn'
import { addSurvey } from './survey'

/** Every verb of the command, in the order in which `--help` lists them. */
const VERBS = [
  addPlan,
  addSimulate,
  addSurvey,
  addSplit,
  addDevelop,
  addFuse,
  addInspect,
  addNeeded,
  addMend,
  addFinish,
  addBackup,
  addRestore,
  addRun,
  addStandIn,
]

/** The `nitidus` command: 0 on success, 2 on a user's mistake with one line on standard error, 1 on ours. */
async function main(args: string[]): Promise<number> {
  const program = new Command('nitidus').description('Plan, check, fuse and keep focus series.').exitOverride().showSuggestionAfterError(false)
  // What is wrong is reported below, in one line.
  const silent = { outputError: () => undefined, writeErr: () => undefined }
  program.configureOutput(silent)
  for (const add of VERBS) add(program)
  for (const verb of program.commands) verb.exitOverride().showSuggestionAfterError(false).configureOutput(silent)
  try {
    await program.parseAsync(args, { from: 'user' })
    return 0
  } catch (error) {
    // Help that was asked for; without a verb it is a mistake.
    if (error instanceof CommanderError && error.exitCode === 0) return 0
    return tell(error as Error, args.includes('--progress'))
  }
}

function tell(error: Error & { field?: string }, progress: boolean): number {
  const { code, text } = sentenceOf(error) ?? { code: 'server.inside', text: `Something went wrong inside: ${error.message}` }
  const field = error.field && !text.includes(error.field) ? `${error.field}: ` : ''
  if (progress) console.error(JSON.stringify({ stage: 'failed', code, text: field + text }))
  else console.error(`${field}${text} [${code}]`)
  if (process.env.NITIDUS_DEBUG) console.error(error.stack)
  return code === 'server.inside' ? 1 : 2
}

/** What a user can do about an error; undefined where it is ours. */
function sentenceOf(error: Error & { code?: string }): Sentence | undefined {
  const known = explained(error)
  if (isRefusal(known)) return { code: known.code, text: known.message }
  if (error instanceof CommanderError) return say('command.usage', { reason: usageReason(error) })
  if (error instanceof RangeError && /memory|allocation/i.test(error.message)) return say('memory.tooLittle')
  if (error.code === 'ENOENT') return say('disk.denied', { reason: error.message })
  return undefined
}

function usageReason({ code, message }: CommanderError): string {
  if (code === 'commander.help') return 'Say what to do'
  const plain = message.replace(/^error: /, '').replace(/\.$/, '')
  return plain[0].toUpperCase() + plain.slice(1)
}

process.exitCode = await main(process.argv.slice(2))
