import { X509Certificate } from 'node:crypto'
import { mkdir, readFile } from 'node:fs/promises'
import path from 'node:path'
import { generate } from 'selfsigned'
import { writeWhole } from '@/codec'

export interface Certificate {
  key: string
  cert: string
}

const DAY_ms = 24 * 3600 * 1000
/** Phones take no certificate for longer than some 400 days. */
const LASTS_ms = 390 * DAY_ms
/** A new one has to be trusted again on every phone: not on the last day. */
const RENEWED_ms = 30 * DAY_ms

/**
 * The certificate of this machine for other devices, made on the spot and kept in `folder` with its key, which only we may read. Made
 * anew where the machine is reached under another address than it was made for, or it ends soon.
 */
export async function certificateFor(addresses: string[], folder: string, now_ms = Date.now()): Promise<Certificate> {
  const [keyFile, certFile] = ['key.pem', 'certificate.pem'].map((name) => path.join(folder, name))
  const [key, cert] = await Promise.all([keyFile, certFile].map((file) => readFile(file, 'utf8').catch(() => undefined)))
  if (key && cert && serves(cert, addresses, now_ms)) return { key, cert }
  const made = await generate([{ name: 'commonName', value: 'Nitidus on this network' }], {
    keyType: 'ec',
    algorithm: 'sha256',
    notBeforeDate: new Date(now_ms - DAY_ms),
    notAfterDate: new Date(now_ms + LASTS_ms),
    extensions: [
      // So that a phone can be told to trust it by itself.
      { name: 'basicConstraints', cA: true, critical: true },
      { name: 'keyUsage', digitalSignature: true, keyCertSign: true, critical: true },
      { name: 'extKeyUsage', serverAuth: true },
      { name: 'subjectAltName', altNames: addresses.map((ip) => ({ type: 7, ip })) },
    ],
  })
  await mkdir(folder, { recursive: true, mode: 0o700 })
  // The certificate last: with it the pair counts.
  await writeWhole(keyFile, made.private, 0o600)
  await writeWhole(certFile, made.cert)
  return { key: made.private, cert: made.cert }
}

function serves(cert: string, addresses: string[], now_ms: number): boolean {
  try {
    const known = new X509Certificate(cert)
    return Date.parse(known.validTo) - now_ms > RENEWED_ms && addresses.every((address) => known.checkIP(address))
  } catch {
    return false
  }
}
