import Joi from 'joi'

/** A device that is let in. Times are ISO 8601. */
export interface PairedDevice {
  id: string
  name: string
  paired_at: string
  seen_at: string
}

/** A code to type on another device, and where that device reaches us. */
export interface PairingOffer {
  code: string
  until: string
  /** `https://192.168.1.5:3443`; several where the machine is in several networks. */
  addresses: string[]
  /** The first of them with the code, as a picture to scan (SVG). */
  qr: string
}

/** What the screen shows of pairing. */
export interface PairingState {
  /** Whether other devices are let in at all. */
  on: boolean
  devices: PairedDevice[]
}

/** What a device sends to be paired; people type codes with gaps. */
export const claimSchema = Joi.object<{ code: string; name: string; token?: string }>({
  code: Joi.string().replace(/[\s-]/g, '').max(40).required(),
  name: Joi.string().trim().min(1).max(60).required(),
  token: Joi.string().max(100),
})

export const tokenSchema = Joi.object<{ token: string }>({ token: Joi.string().max(100).required() })
