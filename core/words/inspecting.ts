/** What may be wrong with a place of a fused picture. `frame` and the like are names of files. */
export const INSPECTING = {
  'place.ghost': ({ frame }: { frame: string }) => `A part moved and may show twice. ${frame} shows it whole.`,
  'place.ghost-unsure': 'A part moved and may show twice. Look through the frames for one that shows it whole.',
  'place.halo': ({ near, far }: { near: string; far: string }) =>
    `Blur of the edge in front (${near}) lies over what is behind it (${far}). No frame is sharp right beside it.`,
  'place.soft': ({ frame }: { frame: string }) => `${frame} is sharper here than the picture.`,
  'place.neverSharp-near': 'This lies in front of the first slice and is sharp in no frame.',
  'place.neverSharp-far': 'This lies behind the last slice and is sharp in no frame.',
  'place.neverSharp-between': ({ after, before }: { after: string; before: string }) =>
    `A slice is missing between ${after} and ${before}: here nothing is quite sharp.`,
  'place.crossing': ({ near, far }: { near: string; far: string }) => `Two depths are sharp here, in ${near} and in ${far}. Choose the one to show.`,
  'place.dust': 'Dust on the sensor left a trail here.',
  'place.edge': 'Some frames do not reach this border. Crop it off, or look whether it is sharp.',
  'place.clipped': 'Highlights are clipped here.',
} as const
