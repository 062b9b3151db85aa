import { readFile } from 'node:fs/promises'
import path from 'node:path'
import type { Command } from 'commander'
import type { MendDocument } from '@/core/mend'
import { refusal } from '@/core/words'
import { check, checkBends, mendSchema, registrationOf, reportSchema, type Registration } from '@/schemas'
import { readJson } from '../json'
import { progressTo } from '../progress'
import { framesIn } from '../series'
import { mend } from './runMend'

interface Options {
  report: string
  base: string
  edits: string
  out: string
  bends?: string
  depth?: string
  progress?: boolean
}

/** `nitidus mend`: carries out edits on a fused picture, painting from the frames it was made of. */
export function addMend(program: Command): void {
  program
    .command('mend')
    .description('carry out edits on a fused picture')
    .argument('<folder>', 'folder of the frames')
    .requiredOption('--report <file>', 'report of the render, as JSON')
    .requiredOption('--base <file>', 'the fused picture')
    .requiredOption('--edits <file>', 'edits, as JSON')
    .requiredOption('--out <file>', 'the mended picture: .tif or .png')
    .option('--bends <file>', 'how frames were bent where parts moved, as JSON')
    .option('--depth <file>', 'depth of the picture, for gates; worked out roughly where it is not given')
    .option('--progress', 'report progress on standard error, one JSON object a line')
    .action(async (folder: string, { report, base, edits, out, bends, depth, progress }: Options) => {
      if (!/\.(tiff?|png)$/i.test(out)) throw refusal('mend.outEnding')
      const document = check<MendDocument>(mendSchema, await readJson(edits))
      const beside = path.dirname(edits)
      const renders = document.edits.flatMap((edit) => (edit.kind === 'render' ? [{ name: edit.file, file: path.resolve(beside, edit.file) }] : []))
      const tell = progressTo(progress)
      const frames = await framesIn(folder, tell)
      await mend({ kind: 'mend', frames, picture: base, depth, document, renders, out }, await registrationFrom(report, bends), tell)
    })
}

/** The registration of a report and its bends. @throws Refusal where they cannot be read. */
export async function registrationFrom(report: string, bends?: string): Promise<Registration> {
  const none = { net: { left_px: 0, top_px: 0, spacingX_px: 1, spacingY_px: 1, columns: 0, rows: 0 }, frames: {} }
  return registrationOf(check(reportSchema, await readJson(report)), bends ? checkBends(JSON.parse(await readFile(bends, 'utf8'))) : none)
}
