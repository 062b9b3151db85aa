import jsQR from 'jsqr'
import type { CarriedLog } from '@/core/field'
import { refusal } from '@/core/words'
import { unpacked } from './packing'

/** Larger photographs are looked at in this size first: codes fill much of them, and noise costs time. */
const LOOK_px = 1600

/** The log in a file that a card saved, or in photographs of its codes. @throws Refusal where it is not there whole. */
export async function carriedIn(files: File[]): Promise<CarriedLog> {
  const pictures = files.filter(({ type }) => type.startsWith('image/'))
  const text = pictures.length > 0 ? await unpacked((await Promise.all(pictures.map(codesIn))).flat()) : await files[0].text()
  try {
    const log = JSON.parse(text) as Partial<CarriedLog> | null
    if (typeof log?.shoot === 'string' && Array.isArray(log.entries))
      return { shoot: log.shoot, title: String(log.title ?? ''), entries: log.entries }
  } catch {
    // No JSON: said below.
  }
  throw refusal('carried.unreadable')
}

/** The code in a photograph; none where it shows none that can be read. */
async function codesIn(file: File): Promise<string[]> {
  const bitmap = await createImageBitmap(file).catch(() => undefined)
  if (!bitmap) return []
  for (const most of [LOOK_px, LOOK_px / 2, Infinity]) {
    const scale = Math.min(1, most / Math.max(bitmap.width, bitmap.height))
    const [width, height] = [bitmap.width, bitmap.height].map((length) => Math.max(1, Math.round(scale * length)))
    const context = new OffscreenCanvas(width, height).getContext('2d')!
    context.drawImage(bitmap, 0, 0, width, height)
    const found = jsQR(context.getImageData(0, 0, width, height).data, width, height)
    if (found) return [found.data]
  }
  return []
}
