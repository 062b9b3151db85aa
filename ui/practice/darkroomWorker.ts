import { STYLES } from '@/core/fuse'
import { EXERCISES, extentOf, placesOf, type Exercise } from '@/core/practice'
import { fromInterleaved, toInterleaved16, type Picture } from '@/core/raster'
import { SimulatedSeries, type SeriesRequest } from '@/core/simulate'
import type { DarkroomOrder, DarkroomReply } from './darkroom'

/** The last series, ready to be shot again: making one ready takes longer than a frame. */
let kept: { key: string; series: SimulatedSeries } | undefined

function seriesOf(request: SeriesRequest): SimulatedSeries {
  const key = JSON.stringify(request)
  if (kept?.key !== key) kept = { key, series: new SimulatedSeries(request) }
  return kept.series
}

function fused(request: SeriesRequest, without?: number): Picture {
  const series = seriesOf(request)
  const { width_px: width, height_px: height } = request.camera
  const accumulator = STYLES.lace.create({ width, height })
  for (let index = 0; index < series.count; index++) {
    if (index === without) continue
    const { picture, motion } = series.shoot(index)
    accumulator.add({ index, samples: toInterleaved16(picture), motion, gain: 1 })
  }
  return fromInterleaved(accumulator.finish().samples, width, height)
}

function shown({ width, height, planes }: Picture): Promise<ImageBitmap> {
  const image = new ImageData(width, height)
  for (let i = 0; i < width * height; i++) {
    for (let c = 0; c < 3; c++) image.data[4 * i + c] = 255 * planes[c].data[i]
    image.data[4 * i + 3] = 255
  }
  return createImageBitmap(image)
}

async function answer(order: DarkroomOrder): Promise<unknown> {
  switch (order.does) {
    case 'shoot':
      return shown(seriesOf(order.request).shoot(order.index).picture)
    case 'count':
      return seriesOf(order.request).count
    case 'fuse':
      return shown(fused(order.request, order.without))
    case 'compare': {
      const [picture, clean] = [fused(order.request, order.without), fused(order.clean)]
      return { picture: await shown(picture), clean: await shown(clean), places: placesOf(picture, clean) }
    }
    case 'extent':
      return extentOf(order.request)
    case 'mark':
      return (EXERCISES[order.exercise] as unknown as Exercise<unknown, unknown>).mark(order.task, order.answer)
  }
}

addEventListener('message', ({ data }: MessageEvent<DarkroomOrder>) => {
  answer(data).then(
    (reply) => postMessage({ id: data.id, reply } satisfies DarkroomReply),
    (cause: Error) => postMessage({ id: data.id, error: cause.message } satisfies DarkroomReply),
  )
})
