import type { Link } from './link'

/**
 * By how much two ways of measuring how a frame is scaled against the one two before it disagree, for each frame: straight, and by the
 * frame between. As the logarithm of a factor; undefined where one of the ways was not measured. Both ways see the same pixels from other
 * sides (see SeriesRegistrar), so that this tells how far a single step can be trusted.
 */
export function scaleGaps(links: Link[], count: number): (number | undefined)[] {
  const measured = new Map(links.map(({ from, to, pair }) => [`${from} ${to}`, Math.log(pair.motion.scale)]))
  return Array.from({ length: count }, (_, k) => {
    const [straight, before, after] = [`${k - 2} ${k}`, `${k - 2} ${k - 1}`, `${k - 1} ${k}`].map((link) => measured.get(link))
    return straight === undefined || before === undefined || after === undefined ? undefined : straight - before - after
  })
}
