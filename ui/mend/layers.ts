import type { MendBase } from '@/core/mend'
import type { RenderDetail, RenderInShort } from '@/schemas'
import type { NamedFrame } from '../namedFrames'
import { FUSED, placementOf, type Layer } from '../viewer'
import type { ComposedFrame } from './ComposedLayers'

/** A render as the view lays it; of the same framing all renders lie alike. */
export function renderLayer({ id, report: { crop } }: RenderInShort | RenderDetail): Layer {
  const pyramid = { prepare: `/api/renders/${id}/zoom`, tiles: `/api/tiles/render-${id}`, width_px: crop.width, height_px: crop.height }
  return { key: `render-${id}`, pyramid, placement: FUSED }
}

/** A frame where it lies on the render; nothing where it was deleted. */
export function frameLayer({ report }: RenderDetail, { frame }: NamedFrame, index: number): Layer | undefined {
  if (!frame) return undefined
  return {
    key: `frame-${frame.id}`,
    pyramid: { prepare: `/api/frames/${frame.id}/zoom`, tiles: `/api/tiles/frame-${frame.id}`, width_px: frame.width, height_px: frame.height },
    placement: placementOf(report, index, frame.width, frame.height),
  }
}

/** The frames that a picture is composed of, from its bottom upwards; none where it is the fused one. */
export function composedFrames(base: MendBase, render: RenderDetail, frames: NamedFrame[]): ComposedFrame[] {
  if (base === 'fused') return []
  const boundaries = 'frame' in base ? [{ frame: base.frame }] : base.boundaries
  return boundaries.flatMap((boundary) => {
    const index = frames.findIndex(({ file }) => file === boundary.frame)
    const layer = index < 0 ? undefined : frameLayer(render, frames[index], index)
    // A layer of its own: the same frame may show through the porthole as well.
    return layer ? [{ ...boundary, layer: { ...layer, key: `composed ${layer.key}` } }] : []
  })
}

/** Renders that lie on this one px by px: of the same run, reference and crop. */
export function likeRenders(render: RenderDetail, all: RenderInShort[]): RenderInShort[] {
  const { reference, crop } = render.report
  const same = (other: RenderInShort) => (['x', 'y', 'width', 'height'] as const).every((side) => other.report.crop[side] === crop[side])
  return all.filter((other) => other.id !== render.id && other.report.reference === reference && same(other))
}
