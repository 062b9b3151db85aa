import { readdir } from 'node:fs/promises'
import path from 'node:path'
import { readFacts, type PictureFacts } from '@/codec'
import { InputError } from '@/schemas'

const PICTURES = /\.(jpe?g|png|tiff?)$/i

/** The kernels' memory holds 4 GB, and a pixel takes 47 bytes of it. */
const MOST_px = 85_000_000

export interface Series {
  files: string[]
  facts: PictureFacts
}

/**
 * The frames of a folder in the order of their names, or the `chosen` ones in the order given, checked to be of one size.
 * @throws InputError where there are fewer than two, or one does not belong.
 */
export async function openSeries(folder: string, chosen?: string[]): Promise<Series> {
  const names = await readdir(folder).catch(() => {
    throw new InputError(`${folder} is not a folder that can be read; give the folder that holds the frames.`)
  })
  const strange = chosen?.find((name) => !names.includes(name))
  if (strange) throw new InputError(`${folder} holds no ${strange}; name files of that folder.`)
  const ordered =
    chosen ?? names.filter((name) => PICTURES.test(name) && !name.startsWith('.')).sort(new Intl.Collator('en', { numeric: true }).compare)
  const files = ordered.map((name) => path.join(folder, name))
  if (files.length === 0) throw new InputError(`${folder} holds no JPEG, PNG or TIFF files; give the folder that holds the frames.`)
  if (files.length === 1) throw new InputError(`${folder} holds one frame only; a series needs at least two.`)
  let first: PictureFacts | undefined
  for (const file of files) {
    const facts = await readFacts(file)
    first ??= facts
    if (facts.width !== first.width || facts.height !== first.height) {
      throw new InputError(
        `${path.basename(file)} is ${facts.width} × ${facts.height} px and ${path.basename(files[0])} is ${first.width} × ${first.height} px; all frames of a series must have one size.`,
      )
    }
    if (!sameProfile(facts.icc, first.icc))
      throw new InputError(`${path.basename(file)} and ${path.basename(files[0])} have different colour profiles; develop all frames alike.`)
  }
  const { width, height } = first!
  if (width * height > MOST_px)
    throw new InputError(
      `Frames of ${Math.round((width * height) / 1e6)} megapixels are too large to fuse; at most ${MOST_px / 1e6} fit in memory. Make them smaller.`,
    )
  return { files, facts: first! }
}

function sameProfile(a: Buffer | undefined, b: Buffer | undefined): boolean {
  return a && b ? a.equals(b) : a === b
}
