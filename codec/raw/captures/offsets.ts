import { readFile } from 'node:fs/promises'
import { OffsetMeter, type Offset } from '@/core/develop'
import { AS_COUNTED, mosaicOf, type Opened } from './set'

/** How far the sensor stood from where it was at the first of these files; null where one is damaged or of another size. */
export async function offsetsOf(files: string[], opened: Opened): Promise<Offset[] | null> {
  let meter: OffsetMeter | undefined
  let size = ''
  const offsets: Offset[] = []
  for (const file of files) {
    const capture = opened(await readFile(file), { ...AS_COUNTED, userMul: [1, 1, 1, 1] }, mosaicOf)
    if (!capture) return null
    const its = `${capture.width} × ${capture.height}`
    if (meter && size !== its) return null
    size = its
    meter ??= new OffsetMeter(capture)
    offsets.push(meter.of(capture))
  }
  return offsets
}
