import { Option, type Command } from 'commander'
import { askedFormat, PICTURE_FORMATS } from '@/codec'
import { PREFERENCES, STYLES } from '@/core/fuse'
import { MOVING } from '@/core/moving'
import { FOLLOWING } from '@/core/register'
import { refusal } from '@/core/words'
import { check, DUST, fuseSettingsSchema, type FuseOutputs, type FuseSettings } from '@/schemas'
import { progressTo } from '../progress'
import { chosenNames, framesIn } from '../series'
import { readPositions } from './depth'
import { runFuse } from './runFuse'

interface Options extends FuseOutputs {
  style?: string
  reference?: string
  bits?: string
  crop?: string
  register: boolean
  localWarp?: string
  moving?: string
  dust?: string
  prefer?: string
  boundary?: string
  neighbourhood?: string
  floor?: string
  finest?: boolean
  frames?: string
  framesFile?: string
  positions?: string
  pixelMm?: string
  progress?: boolean
}

/** `nitidus fuse`: registers and fuses the frames of a folder; `--frames` names the ones to use, in focus order. */
export function addFuse(program: Command): void {
  program
    .command('fuse')
    .description('register and fuse a series into one picture')
    .argument('<folder>', 'folder of the frames')
    .requiredOption('--out <file>', 'the picture: .tif, .png or .jpg')
    .addOption(new Option('--style <style>', `one of ${Object.keys(STYLES).join(', ')}`))
    .option('--reference <n>', 'frame whose framing the picture keeps, counted from 1 in focus order')
    .option('--bits <bits>', '8 or 16 bits a channel')
    .option('--crop <crop>', 'common: what all frames show; none: the whole reference frame')
    .option('--no-register', 'do not register; take the frames as they are')
    .addOption(new Option('--local-warp <when>', `whether parts that moved are followed: ${FOLLOWING.join(', ')}`))
    .addOption(new Option('--moving <how>', `how parts that moved are shown: ${MOVING.join(', ')}`))
    .addOption(new Option('--dust <what>', `dust on the sensor: ${DUST.join(' or ')}`))
    .addOption(new Option('--prefer <depth>', `which of two sharp depths wins: ${PREFERENCES.join(', ')}`))
    .option('--boundary <softness>', 'how soft borders between frames are: 0 to 1; 0.5 is as it is')
    .option('--neighbourhood <size>', 'how far around sharpness is gathered: 1 to 4')
    .option('--floor <times>', 'what counts as detail, in multiples of the noise')
    .option('--finest', 'go through the frames once more for the finest detail')
    .option('--frames <names>', 'files to use, in focus order, with commas between')
    .option('--frames-file <file>', 'a text file of their names, one a line')
    .option('--report <file>', 'what was done, frame by frame, as JSON')
    .option('--registration <file>', 'the whole registration record, as JSON')
    .option('--bends <file>', 'how frames were bent where parts moved, as JSON')
    .option('--source-map <file>', 'which frame shows where, as PNG')
    .option('--depth <file>', 'depth as 16-bit PNG')
    .option('--confidence <file>', 'how far depth can be trusted, as PNG')
    .option('--relief <file>', 'the surface as .ply or .obj')
    .option('--so-far <folder>', 'write small pictures of what there is so far')
    .option('--positions <file>', 'plane of focus of each file in mm, as JSON')
    .option('--pixel-mm <mm>', 'size of a pixel on the subject')
    .option('--progress', 'report progress on standard error, one JSON object a line')
    .action(fuse)
}

async function fuse(folder: string, options: Options): Promise<void> {
  const { out, relief, pixelMm, positions } = options
  if (!askedFormat(out)) throw refusal('command.outEnding', { formats: PICTURE_FORMATS })
  if (relief && !/\.(ply|obj)$/i.test(relief)) throw refusal('command.reliefEnding')
  const pixel_mm = pixelMm === undefined ? undefined : Number(pixelMm)
  if (pixel_mm !== undefined && !(pixel_mm > 0)) throw refusal('command.pixelSize')
  const { style, reference, bits, crop, register, localWarp, moving, dust, prefer, boundary, neighbourhood, floor, finest } = options
  const asked = {
    style,
    reference,
    bits: bits === undefined ? undefined : Number(bits),
    crop,
    register,
    localWarp,
    moving,
    dust,
    prefer,
    boundary,
    neighbourhood,
    floor,
    finest,
  }
  const settings = check<FuseSettings>(fuseSettingsSchema, asked)
  const tell = progressTo(options.progress)
  const frames = await framesIn(folder, tell, await chosenNames(options))
  const positions_mm = positions ? await readPositions(positions, frames) : undefined
  const lost = await runFuse({ kind: 'fuse', frames, settings, outputs: options, positions_mm, pixel_mm }, tell)
  for (const { code, text } of lost) console.error(options.progress ? JSON.stringify({ stage: 'note', code, text }) : text)
}
