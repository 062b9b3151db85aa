import { Readable } from 'node:stream'
import { runAsWorker } from 'synckit'
import { runCommand } from '../dist/command.mjs'

/** Runs the built command in this thread and returns its exit code and what it wrote. */
runAsWorker(async (args, input) => {
  const written = { stdout: '', stderr: '' }
  for (const name of ['stdout', 'stderr'])
    process[name].write = (text) => {
      written[name] += text
      return true
    }
  Object.defineProperty(process, 'stdin', { value: Readable.from([input]), configurable: true })
  return { status: await runCommand(args), ...written }
})
