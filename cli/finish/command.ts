import type { Command } from 'commander'
import { checkRecipe } from '@/schemas'
import { refusal } from '@/core/words'
import { readJson } from '../json'
import { registrationFrom } from '../mend/command'
import { progressTo } from '../progress'
import { framesIn } from '../series'
import { finishPicture } from './runFinish'

interface Options {
  recipe: string
  out: string
  depth?: string
  confidence?: string
  layers?: string
  report?: string
  bends?: string
  progress?: boolean
}

/** `nitidus finish`: carries out a recipe on a picture, once, for what it is to be delivered as. */
export function addFinish(program: Command): void {
  program
    .command('finish')
    .description('finish a picture by a recipe: crop, light, tones, sharpening, size')
    .argument('<picture>', 'the picture')
    .requiredOption('--recipe <file>', 'recipe, as JSON')
    .requiredOption('--out <file>', 'the finished picture: .tif, .png, .jpg, .webp, .avif or .ora')
    .option('--depth <file>', 'depth of the picture, for steps that follow it')
    .option('--confidence <file>', 'how sure the depth is; what is not sharp is not sharpened')
    .option('--layers <folder>', 'frames to lay under the picture (.ora), each seen where it was chosen')
    .option('--report <file>', 'report of the render, for the layers')
    .option('--bends <file>', 'how frames were bent where parts moved, for the layers')
    .option('--progress', 'report progress on standard error, one JSON object a line')
    .action(async (picture: string, { recipe, progress, layers, report, bends, ...files }: Options) => {
      if (layers !== undefined && report === undefined) throw refusal('finish.layersReport')
      const tell = progressTo(progress)
      const beneath =
        layers !== undefined ? { frames: await framesIn(layers, tell), registration: await registrationFrom(report!, bends) } : undefined
      await finishPicture({ kind: 'finish', picture, recipe: checkRecipe(await readJson(recipe)), ...files }, beneath, tell)
    })
}
