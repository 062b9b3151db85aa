import { Command, CommanderError } from 'commander'
import { isRefusal, say, type Sentence } from '@/core/words'

/** Every verb, in the order in which `--help` lists them. The code of a verb is loaded when it is used. */
const VERBS: Record<string, () => Promise<(program: Command) => void>> = {
  plan: async () => (await import('./plan')).addPlan,
  simulate: async () => (await import('./simulate')).addSimulate,
  survey: async () => (await import('./survey')).addSurvey,
  split: async () => (await import('./split')).addSplit,
  develop: async () => (await import('./develop')).addDevelop,
  fuse: async () => (await import('./fuse/command')).addFuse,
  inspect: async () => (await import('./inspect/command')).addInspect,
  'frames-needed': async () => (await import('./needed/command')).addNeeded,
  measure: async () => (await import('./measure')).addMeasure,
  mend: async () => (await import('./mend/command')).addMend,
  finish: async () => (await import('./finish/command')).addFinish,
  backup: async () => (await import('./backup')).addBackup,
  restore: async () => (await import('./backup')).addRestore,
  run: async () => (await import('./run')).addRun,
  'stand-in': async () => (await import('./standIn')).addStandIn,
}

/** Runs the `nitidus` command. Returns its exit code: 0 on success, 2 on a user's mistake with one line on standard error, 1 on ours. */
export async function runCommand(args: string[]): Promise<number> {
  const program = new Command('nitidus').description('Plan, check, fuse and keep focus series.').exitOverride().showSuggestionAfterError(false)
  // `report` writes errors, in one line.
  const silent = { outputError: () => undefined, writeErr: () => undefined }
  program.configureOutput(silent)
  for (const load of args[0] in VERBS ? [VERBS[args[0]]] : Object.values(VERBS)) (await load())(program)
  for (const verb of program.commands) verb.exitOverride().showSuggestionAfterError(false).configureOutput(silent)
  try {
    await program.parseAsync(args, { from: 'user' })
    return 0
  } catch (error) {
    // `--help` is no mistake; a missing verb is.
    if (error instanceof CommanderError && error.exitCode === 0) return 0
    return report(error as Error, args.includes('--progress'))
  }
}

async function report(error: Error & { field?: string }, progress: boolean): Promise<number> {
  const { code, text } = (await sentenceOf(error)) ?? { code: 'server.inside', text: `Something went wrong inside: ${error.message}` }
  const field = error.field && !text.includes(error.field) ? `${error.field}: ` : ''
  if (progress) console.error(JSON.stringify({ stage: 'failed', code, text: field + text }))
  else console.error(`${field}${text} [${code}]`)
  if (process.env.NITIDUS_DEBUG) console.error(error.stack)
  return code === 'server.inside' ? 1 : 2
}

/** The sentence for a user's mistake; undefined for a fault of ours. */
async function sentenceOf(error: Error & { code?: string }): Promise<Sentence | undefined> {
  if (isRefusal(error)) return { code: error.code, text: error.message }
  const { explained } = await import('@/database')
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
