/** A picture's size as far as it could be read: null where it could not, which is left to whoever reads it whole. */
export interface SizedName {
  name: string
  size: { width: number; height: number } | null
}

/**
 * What of a batch belongs together: frames of one series are all of one size, so that the size of most of them is kept and the others are
 * named. Where two sizes are as many, the one that comes first counts.
 */
export function sortBySize<T extends SizedName>(files: T[]): { kept: T[]; strays: { file: T; size: string; usual: string }[] } {
  const text = ({ size }: SizedName) => size && `${size.width} × ${size.height}`
  const counts = new Map<string, number>()
  for (const file of files) {
    const size = text(file)
    if (size) counts.set(size, (counts.get(size) ?? 0) + 1)
  }
  const [usual] = [...counts].reduce((best, next) => (next[1] > best[1] ? next : best), ['', 0])
  const fits = (file: T) => [null, usual].includes(text(file))
  return {
    kept: files.filter(fits),
    strays: files.filter((file) => !fits(file)).map((file) => ({ file, size: text(file)!, usual })),
  }
}
