interface Shows {
  kept: number
  soft_percent: number
}

const ORDINALS = ['', '', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth', 'ninth', 'tenth']

const shown = (shows: Shows | undefined) => (shows ? ` With ${shows.kept}, ${shows.soft_percent} % of the detail looks soft: look at the place.` : '')

/** How many frames of a series were needed. */
export const NEEDED = {
  'needed.few': ({ count }: { count: number }) => `Only ${count} frames were fused. There is nothing to save below four.`,
  'needed.mended': 'This picture was mended. Open the fused one it began with, and ask there.',
  'needed.all': ({ count, shows }: { count: number; shows?: Shows }) => `All ${count} frames were needed.${shown(shows)}`,
  'needed.fewer': ({ count, kept, every, saved_s, shows }: { count: number; kept: number; every?: number; saved_s?: number; shows?: Shows }) => {
    const would = every ? `Every ${ORDINALS[every] ?? `${every}th`} frame would have done` : 'Fewer frames would have done'
    const saved = saved_s === undefined ? `${count - kept} frames saved` : `${count - kept} frames and ${Math.round(saved_s)} s saved`
    return `${would}: ${kept} instead of ${count}, ${saved}.${shown(shows)}`
  },
} as const
