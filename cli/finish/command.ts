import type { Command } from 'commander'
import { checkRecipe } from '@/schemas'
import { readJson } from '../json'
import { progressTo } from '../progress'
import { runFinish } from './runFinish'

interface Options {
  recipe: string
  out: string
  depth?: string
  confidence?: string
  progress?: boolean
}

/** `nitidus finish`: carries out a recipe on a picture, once, for what it is to be delivered as. */
export function addFinish(program: Command): void {
  program
    .command('finish')
    .description('finish a picture by a recipe: crop, light, tones, sharpening, size')
    .argument('<picture>', 'the picture')
    .requiredOption('--recipe <file>', 'recipe, as JSON')
    .requiredOption('--out <file>', 'the finished picture: .tif, .png, .jpg, .webp or .avif')
    .option('--depth <file>', 'depth of the picture, for steps that follow it')
    .option('--confidence <file>', 'how sure the depth is; what is not sharp is not sharpened')
    .option('--progress', 'report progress on standard error, one JSON object a line')
    .action(async (picture: string, { recipe, progress, ...files }: Options) => {
      await runFinish({ kind: 'finish', picture, recipe: checkRecipe(await readJson(recipe)), ...files }, progressTo(progress))
    })
}
