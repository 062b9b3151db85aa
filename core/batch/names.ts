/** What files of pictures are called; what is in them is found by whoever reads them. */
const PICTURE_ENDINGS = ['jpg', 'jpeg', 'png', 'tif', 'tiff']
/** What cameras call their raw files: DNG, and formats of their own. */
const RAW_ENDINGS = 'dng 3fr arw cr2 cr3 dcr erf fff iiq kdc mef mos mrw nef nrw orf pef raf raw rw2 rwl sr2 srw x3f'.split(' ')

/** Endings of all files that may be frames, as a file dialog takes them. */
export const FRAME_ENDINGS = [...PICTURE_ENDINGS, ...RAW_ENDINGS].map((ending) => `.${ending}`).join(',')

/** Whether a file of this name is a raw file. */
export const isRaw = (name: string): boolean => RAW_ENDINGS.includes(endingOf(name))

/** Whether a file of this name may be a frame. */
export const isPicture = (name: string): boolean => PICTURE_ENDINGS.includes(endingOf(name)) || isRaw(name)

/** Cameras can write a frame twice, as a raw file and as a JPEG of the same name: the raw file is the frame. */
export function withoutPairs<T extends { name: string }>(files: T[]): { kept: T[]; pairs: { file: T; raw: string }[] } {
  const raws = new Map(files.flatMap(({ name }) => (isRaw(name) ? [[stemOf(name), name] as const] : [])))
  const rawOf = ({ name }: T) => (isRaw(name) ? undefined : raws.get(stemOf(name)))
  return {
    kept: files.filter((file) => !rawOf(file)),
    pairs: files.flatMap((file) => {
      const raw = rawOf(file)
      return raw ? [{ file, raw }] : []
    }),
  }
}

const endingOf = (name: string) => /\.([^.]+)$/.exec(name)?.[1].toLowerCase() ?? ''
const stemOf = (name: string) => name.slice(0, name.length - endingOf(name).length).toLowerCase()
