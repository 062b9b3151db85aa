/** What can be wrong with a mend. */
export const MENDING = {
  'mend.frameUnknown': ({ frame }: { frame: string }) => `${frame} is no frame of this render. Choose one of those it was made of.`,
  'mend.frameLeftOut': ({ frame }: { frame: string }) =>
    `${frame} could not be registered with the others, so nothing can be painted from it. Choose another frame.`,
  'mend.frameGone': ({ frame }: { frame: string }) => `The file of ${frame} is not in the folder. Bring it again.`,
  'mend.outside': ({ id }: { id: string }) => `Edit ${id} lies outside of the picture. Move it inside, or take it out.`,
  'mend.twice': ({ id }: { id: string }) => `Two edits are called ${id}. Give each a name of its own.`,
  'mend.undoUnknown': ({ id, of }: { id: string; of: string }) => `Edit ${id} undoes ${of}, which comes nowhere before it. Take it out.`,
  'mend.size': ({ file, size, wanted }: { file: string; size: string; wanted: string }) =>
    `${file} has ${size} pixels, and this render has ${wanted}. Choose the picture that belongs to the report.`,
  'mend.otherRender': 'That render is framed otherwise, so it cannot be painted from. Choose one of the same frames, reference and crop.',
  'mend.gone': 'This mend no longer exists. Go back to the result.',
  'mend.nothing': 'Nothing is mended yet. Paint something first.',
  'mend.tooMany': ({ most }: { most: number }) => `A mend holds at most ${most} edits. Render it, and begin another on the result.`,
  'mend.lastBoundary': 'Every frame but the last needs a line up to which it is shown, and the last one none.',
  'mend.outEnding': 'Call the mended picture .tif or .png.',
} as const
