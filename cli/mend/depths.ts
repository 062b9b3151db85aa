import sharp from 'sharp'
import { readGrey, readSamples } from '@/codec'
import { STYLES, type Accumulator } from '@/core/fuse'
import { USUAL_STYLE } from '@/core/fuse/purposes'
import type { Plane, Rectangle } from '@/core/raster'
import type { Kernels } from '@/core/raster/kernels'
import type { Depths } from '@/core/mend'
import { refusal } from '@/core/words'
import { placeOf, type FrameFile, type Registration } from '@/schemas'

/** Frames are looked at this wide where the depth has to be worked out: for a gate, roughly is enough. */
const WIDTH_px = 1000

/** The depth of a render from its 16-bit picture. @throws Refusal where that is of another size. */
export async function readDepths(file: string, { width, height }: Rectangle): Promise<Depths> {
  const map = await readGrey(file)
  if (map.width !== width || map.height !== height)
    throw refusal('mend.size', { file, size: `${map.width} × ${map.height}`, wanted: `${width} × ${height}` })
  return { ...map, most: 65535 }
}

/** The depth of a render worked out from its frames, as fusing them small would find it. */
export async function roughDepths(frames: FrameFile[], registration: Registration, kernels: Kernels): Promise<Depths> {
  const used = registration.frames.flatMap(({ file }) => {
    const [frame, place] = [frames.find(({ name }) => name === file), placeOf(registration, file)]
    return frame && place ? [{ frame, place }] : []
  })
  let accumulator: Accumulator | undefined
  let scale = 1
  for (const [index, { frame, place }] of used.entries()) {
    const { samples, width, height } = await readSamples(frame.file, WIDTH_px, frame.name)
    scale = width / (await fullWidth(frame.file))
    accumulator ??= STYLES[USUAL_STYLE].create({ width, height, kernels })
    const motion = { ...place.motion, dx_px: place.motion.dx_px * scale, dy_px: place.motion.dy_px * scale }
    accumulator.add({ index, samples, motion, gain: place.gain })
  }
  const map = accumulator!.finish().depth()
  // Maps have half the size of what was fused.
  return enlarged(map, scale / 2, registration.crop, Math.max(1, used.length - 1))
}

async function fullWidth(file: string): Promise<number> {
  const { width, height, orientation = 1 } = await sharp(file).metadata()
  return orientation >= 5 ? height : width
}

/** A small map of the whole reference frame as the crop of the full one. */
function enlarged(map: Plane, scale: number, crop: Rectangle, most: number): Depths {
  const data = new Float32Array(crop.width * crop.height)
  for (let y = 0, o = 0; y < crop.height; y++) {
    const row = Math.min(map.height - 1, Math.floor((crop.y + y) * scale)) * map.width
    for (let x = 0; x < crop.width; x++, o++) data[o] = map.data[row + Math.min(map.width - 1, Math.floor((crop.x + x) * scale))]
  }
  return { width: crop.width, height: crop.height, data, most }
}
