/** What can be wrong with a recipe. */
export const FINISHING = {
  'finish.cropOutside': ({ size }: { size: string }) =>
    `The crop reaches beyond the picture, which is ${size} px there. Make it smaller, or move it inside.`,
  'finish.placeOutside': ({ x, y }: { x: number; y: number }) => `The place ${x}, ${y} lies outside of the picture. Choose one inside.`,
  'finish.cardLight': 'The card is white there: its colour is lost. Choose a darker place of it, or a frame that is exposed less.',
  'finish.cardDark': 'It is too dark there to tell a colour. Choose a lighter place, or another frame.',
  'finish.size': ({ long_px, most_px }: { long_px: number; most_px: number }) =>
    `That would be ${long_px} px long. Ask for a picture from 1 to ${most_px} px.`,
  'finish.tones': 'Each rung has to stay above the one below it. Move the rung that crosses another.',
  'finish.shortLine': 'The line begins where it ends. Draw it from one place to another.',
  'finish.noDepth': 'A step follows the depth, and no depth is known of this picture. Give it with --depth, or take the step out.',
  'finish.barLength': ({ length_mm }: { length_mm: number }) => `A bar of ${length_mm} mm does not fit the picture. Ask for another length.`,
  'finish.noScale':
    'Nobody knows how large a pixel of this picture is, so a scale bar would be made up. Take the scale bar out, or give the run a plan.',
  'finish.mapSize': ({ file, size, wanted }: { file: string; size: string; wanted: string }) =>
    `${file} is ${size} px and the picture ${wanted}. Give the map that was made with it.`,
  'finish.newer': ({ version }: { version: number }) => `This recipe was written by a newer version (${version}). Update the application to use it.`,
  'finish.ending': 'Call the finished picture .tif, .png, .jpg, .webp, .avif or .ora.',
  'finish.layersReport': 'Layers need the report of the render that they lie under. Give it with --report.',
  'finish.pagesSize': 'A TIFF with these layers would be larger than 4 GB. Take them along as OpenRaster instead, or with 8 bits.',
  'finish.profile': 'The colours of this picture cannot be converted by its profile. Keep its profile instead.',
  'finish.webpSize': ({ most_px }: { most_px: number }) =>
    `This format holds at most ${most_px} px a side. Ask for a smaller picture, or another format.`,
  'recipe.gone': 'This recipe no longer exists. Choose another.',
  'recipe.name': ({ name }: { name: string }) => `There is a recipe called ${name} already. Choose another name.`,
  'recipe.none': 'Keep a recipe first, then choose it for these pictures.',
  'take.noFrames': 'The frames of this picture are not given. Give them and how they were registered.',
  'take.noSource': 'Nobody knows any more which frame shows where. Fuse the run again.',
  'take.noDepth': 'No depth is known of this picture. Fuse the run again.',
  'take.ending': ({ endings }: { endings: string }) => `This file has to be called .${endings}.`,
}
