import { spawn, type ChildProcessWithoutNullStreams } from 'node:child_process'
import { createInterface } from 'node:readline'
import type { StandInSetup } from '@/core/devices'
import { refusal, Refusal, type Sentence } from '@/core/words'
import { type DeviceReply } from '@/schemas'

type Waiting = { resolve: (reply: DeviceReply & { position_mm?: number }) => void; reject: (error: Error) => void }

/** The stand-ins of one shoot in a process of their own, asked one thing after the other. */
export class StandInProcess {
  private readonly child: ChildProcessWithoutNullStreams
  private readonly waiting = new Map<number, Waiting>()
  private asked = 0
  ended = false

  constructor(engine: string) {
    this.child = spawn(process.execPath, [engine, 'stand-in'], { stdio: ['pipe', 'pipe', 'pipe'] })
    createInterface({ input: this.child.stdout }).on('line', (line) => this.answer(line))
    this.child.stderr.resume()
    this.child.stdin.on('error', () => undefined)
    this.child.on('error', () => this.end())
    this.child.on('close', () => this.end())
  }

  open(setup: StandInSetup) {
    return this.ask({ do: 'open', setup })
  }

  /** @throws Refusal with the device's own sentence where it refuses, or where the process has ended. */
  ask(call: object): Promise<DeviceReply & { position_mm?: number }> {
    if (this.ended) return Promise.reject(refusal('device.gone'))
    const id = ++this.asked
    return new Promise((resolve, reject) => {
      this.waiting.set(id, { resolve, reject })
      this.child.stdin.write(`${JSON.stringify({ id, ...call })}\n`)
    })
  }

  stop(): void {
    this.child.kill('SIGKILL')
  }

  private answer(line: string): void {
    const answer = parsed(line)
    if (!answer) return
    const { id, ok, error } = answer
    const waiting = this.waiting.get(id)
    this.waiting.delete(id)
    if (error !== undefined) waiting?.reject(new Refusal(error))
    else waiting?.resolve(ok!)
  }

  private end(): void {
    this.ended = true
    for (const { reject } of this.waiting.values()) reject(refusal('device.gone'))
    this.waiting.clear()
  }
}

/** An answer of the process; undefined for any other line, such as a warning of a library, which is logged. */
function parsed(line: string): { id: number; ok?: DeviceReply; error?: Sentence } | undefined {
  try {
    return JSON.parse(line) as ReturnType<typeof parsed>
  } catch {
    console.error(`Simulated devices: ${line}`)
    return undefined
  }
}
