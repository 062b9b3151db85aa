import { runCommand } from './command'

// A job of the application ends with it: the next start must find nothing that still changes the data folder.
if (process.channel) {
  process.channel.unref()
  process.on('disconnect', () => process.exit(1))
}

process.exitCode = await runCommand(process.argv.slice(2))
