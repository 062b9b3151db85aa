'use client'

import { useId } from 'react'
import type { UnsharpReport } from '@/core/survey'
import { depthCss } from '@/core/ramp'

/** Parts beyond an end wear the colour of that end of the depth ribbon; parts between slices are white. */
const HATCHES = [
  { letter: 'n', colour: depthCss(0), turn_deg: 45 },
  { letter: 'f', colour: depthCss(1), turn_deg: -45 },
  { letter: 'b', colour: '#fff', turn_deg: 0 },
]

/** Hatches what is sharp in no frame, over a picture that fills the same box. */
export function UnsharpOverlay({ unsharp: { map }, className }: { unsharp: UnsharpReport; className?: string }) {
  const id = useId()
  const [across, down] = [map[0]?.length ?? 0, map.length]
  return (
    <svg className={className} viewBox={`0 0 ${across} ${down}`} preserveAspectRatio="none" aria-hidden>
      <defs>
        {HATCHES.map(({ letter, colour, turn_deg }) => (
          <pattern
            key={letter}
            id={`${id}${letter}`}
            width="0.75"
            height="0.75"
            patternUnits="userSpaceOnUse"
            patternTransform={`rotate(${turn_deg})`}
          >
            <rect width="0.75" height="0.75" fill="#000" fillOpacity="0.25" />
            <rect width="0.75" height="0.3" fill={colour} />
          </pattern>
        ))}
      </defs>
      {HATCHES.map(({ letter }) => (
        <path key={letter} d={outline(map, letter)} fill={`url(#${id}${letter})`} />
      ))}
    </svg>
  )
}

/** Every part of one kind, parts side by side as one rectangle. */
function outline(map: string[], letter: string): string {
  return map
    .flatMap((row, y) =>
      [...row.matchAll(new RegExp(`${letter}+`, 'g'))].map(({ 0: parts, index }) => `M${index} ${y}h${parts.length}v1h-${parts.length}z`),
    )
    .join('')
}

/** What the hatching shows, in words. */
export function unsharpText({ near_percent, far_percent, between_percent }: UnsharpReport): string {
  const shares = [
    [near_percent, 'in front of the first slice'],
    [far_percent, 'behind the last slice'],
    [between_percent, 'between slices'],
  ] as const
  const listed = shares.filter(([percent]) => percent >= 0.5).map(([percent, where]) => `${Math.round(percent)} % ${where}`)
  return `Sharp in no frame: ${listed.join(', ')}.`
}
