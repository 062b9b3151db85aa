import { createHash, randomBytes, randomInt, randomUUID, timingSafeEqual } from 'node:crypto'
import { mkdir, readFile } from 'node:fs/promises'
import path from 'node:path'
import Joi from 'joi'
import QRCode from 'qrcode'
import { writeWhole } from '@/codec'
import { refusal } from '@/core/words'
import { now } from '@/database'
import { check, type PairedDevice, type PairingOffer } from '@/schemas'
import { lanOf, type Lan } from './addresses'

/** A code is typed within this time. */
const CODE_LASTS_ms = 5 * 60_000
/** Of eight digits, tried five times: one in twenty million. */
const MOST_WRONG = 5
const WRONG_WAITS_ms = 1000
/** `seen_at` is accurate to a minute. */
const SEEN_EVERY_ms = 60_000

interface KeptDevice extends PairedDevice {
  tokenSha256: string
}

const devicesSchema = Joi.array().items(
  Joi.object<KeptDevice>({
    id: Joi.string().required(),
    name: Joi.string().required(),
    paired_at: Joi.string().required(),
    seen_at: Joi.string().required(),
    tokenSha256: Joi.string().hex().length(64).required(),
  }),
)

interface Code {
  digits: string
  until_ms: number
  wrong: number
}

/** Lets other devices in: by a code that is shown on this machine and typed on the device, which then gets a token. */
export class Pairing {
  private code: Code | undefined
  private devices: Promise<KeptDevice[]> | undefined
  /** One claim after the other: a wrong one holds up those behind it. */
  private claims: Promise<unknown> = Promise.resolve()
  private changes: Promise<unknown> = Promise.resolve()

  /** @param folder stores the paired devices, for this machine only. */
  constructor(
    private readonly folder: string,
    readonly lan: Lan | undefined = lanOf(),
    private readonly clock: () => number = Date.now,
  ) {}

  /** A new code; one that was shown before no longer counts. @throws Refusal where other devices are not let in. */
  async offer(): Promise<PairingOffer> {
    const { lan } = this
    if (!lan) throw refusal('pairing.off')
    const digits = String(randomInt(1e8)).padStart(8, '0')
    this.code = { digits, until_ms: this.clock() + CODE_LASTS_ms, wrong: 0 }
    const addresses = lan.addresses.map((address) => `https://${address}:${lan.port}`)
    return {
      code: digits,
      until: new Date(this.code.until_ms).toISOString(),
      addresses,
      qr: addresses.length > 0 ? await QRCode.toString(`${addresses[0]}/pair?code=${digits}`, { type: 'svg', margin: 1 }) : '',
    }
  }

  /**
   * Pairs a device: answers its token. A device that was paired before, known by its old token, is not listed twice.
   * @throws Refusal where the code is wrong, which takes a while, or there is none to type.
   */
  claim(digits: string, name: string, oldToken?: string): Promise<string> {
    const claimed = this.claims.then(() => this.claimNow(digits, name, oldToken))
    this.claims = claimed.catch(() => undefined)
    return claimed
  }

  /** The device that a token belongs to. */
  async deviceOf(token: string): Promise<PairedDevice | undefined> {
    const hash = hashOf(token)
    const devices = await this.kept()
    const device = devices.find(({ tokenSha256 }) => tokenSha256 === hash)
    if (device && this.clock() - Date.parse(device.seen_at) > SEEN_EVERY_ms) {
      const seen_at = new Date(this.clock()).toISOString()
      await this.change((all) => all.map((each) => (each.id === device.id ? { ...each, seen_at } : each)))
    }
    // It may have been revoked meanwhile.
    const now = (await this.kept()).find(({ id }) => id === device?.id)
    return now && shown(now)
  }

  /** All paired devices, the newest first. */
  async list(): Promise<PairedDevice[]> {
    return (await this.kept()).map(shown).reverse()
  }

  /** Lets a device in no longer. @throws Refusal where it is not paired. */
  async revoke(id: string): Promise<void> {
    await this.change((devices) => {
      const others = devices.filter((device) => device.id !== id)
      if (others.length === devices.length) throw refusal('pairing.gone')
      return others
    })
  }

  private async claimNow(digits: string, name: string, oldToken?: string): Promise<string> {
    const { code } = this
    if (!code || code.until_ms < this.clock()) throw refusal('pairing.noCode')
    if (!same(digits, code.digits)) {
      await new Promise((resolve) => setTimeout(resolve, WRONG_WAITS_ms))
      if (++code.wrong < MOST_WRONG) throw refusal('pairing.wrongCode')
      this.code = undefined
      throw refusal('pairing.noCode')
    }
    this.code = undefined
    const token = randomBytes(32).toString('base64url')
    const device = { id: randomUUID(), name, paired_at: now(), seen_at: now(), tokenSha256: hashOf(token) }
    await this.change((devices) => [...devices.filter(({ tokenSha256 }) => !oldToken || tokenSha256 !== hashOf(oldToken)), device])
    return token
  }

  private get file(): string {
    return path.join(/* turbopackIgnore: true */ this.folder, 'devices.json')
  }

  private kept(): Promise<KeptDevice[]> {
    this.devices ??= readFile(this.file, 'utf8').then(
      (text) => check<KeptDevice[]>(devicesSchema, JSON.parse(text)),
      () => [],
    )
    return this.devices
  }

  /** Changes the list of devices: one change after another, each of what the one before it left. */
  private change(update: (devices: KeptDevice[]) => KeptDevice[]): Promise<void> {
    const changed = this.changes.then(async () => this.keep(update(await this.kept())))
    this.changes = changed.catch(() => undefined)
    return changed
  }

  /** Written before it counts: what cannot be kept is not let in. */
  private async keep(devices: KeptDevice[]): Promise<void> {
    await mkdir(this.folder, { recursive: true, mode: 0o700 })
    await writeWhole(this.file, JSON.stringify(devices, null, 2))
    this.devices = Promise.resolve(devices)
  }
}

const shown = ({ tokenSha256: _, ...device }: KeptDevice): PairedDevice => device
const hashOf = (token: string) => createHash('sha256').update(token).digest('hex')
const same = (a: string, b: string) => a.length === b.length && timingSafeEqual(Buffer.from(a), Buffer.from(b))
