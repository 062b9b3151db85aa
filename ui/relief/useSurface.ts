import { useQuery } from '@tanstack/react-query'
import { surfaceOf, type Surface, type SurfaceFacts } from '@/core/relief'
import { fetchJson } from '../api'
import { proofSamples } from '../proofSamples'

/** A picture with its surface, to turn and measure. */
export interface ReliefData {
  surface: Surface
  picture: ImageData
}

/** The surface is thinned to this width: what a laptop turns smoothly; the picture on it keeps more. */
const SURFACE_px = 600
const PICTURE_px = 1800

/** Fetches what is known of a render's depth, and the picture that lies on it. */
export function useSurface(renderId: number) {
  return useQuery({
    queryKey: ['surface', renderId],
    staleTime: Infinity,
    queryFn: async (): Promise<ReliefData> => {
      const [facts, depth, confidence, picture] = await Promise.all([
        fetchJson<SurfaceFacts & { width_px: number }>(`/api/renders/${renderId}/surface`),
        proofSamples(renderId, 'depth', SURFACE_px),
        proofSamples(renderId, 'confidence', SURFACE_px),
        proofSamples(renderId, 'picture', PICTURE_px),
      ])
      if (!depth || !picture) throw new Error('The depth of this picture cannot be read. Fuse the run again.')
      return { surface: surfaceOf(depth, confidence, facts, facts.width_px), picture: imageOf(picture) }
    },
  })
}

function imageOf({ width, height, data }: { width: number; height: number; data: Uint16Array }): ImageData {
  const image = new ImageData(width, height)
  for (let i = 0, o = 0; i < data.length; i += 3, o += 4) {
    for (let c = 0; c < 3; c++) image.data[o + c] = (data[i + c] + 128) / 257
    image.data[o + 3] = 255
  }
  return image
}
