'use client'

import { useRef, type KeyboardEvent, type PointerEvent } from 'react'
import type { Light } from './stage'
import styles from './relief.module.css'

interface Props {
  light: Light
  onLight: (light: Light) => void
}

const RADIUS = 46
const STEP_deg = 10
/** The lowest light there is: from below nothing would be lit. */
const LOWEST_deg = 5

const limited = (high_deg: number) => Math.min(90, Math.max(LOWEST_deg, high_deg))

/** A dome seen from above: the dot is where the light stands over the picture; at the rim it rakes. */
export function LightPad({ light, onLight }: Props) {
  const pad = useRef<SVGSVGElement>(null)
  const away = (1 - (light.high_deg - LOWEST_deg) / (90 - LOWEST_deg)) * RADIUS
  const round = (light.round_deg * Math.PI) / 180
  const follow = (event: PointerEvent) => {
    const { left, top, width, height } = pad.current!.getBoundingClientRect()
    const [x, y] = [event.clientX - left - width / 2, top + height / 2 - event.clientY]
    const part = Math.min(1, Math.hypot(x, y) / ((RADIUS / 104) * width))
    onLight({ round_deg: Math.round((Math.atan2(y, x) * 180) / Math.PI), high_deg: limited(Math.round(90 - part * (90 - LOWEST_deg))) })
  }
  const onKeyDown = (event: KeyboardEvent) => {
    const { round_deg, high_deg } = light
    const next = {
      ArrowLeft: { round_deg: round_deg + STEP_deg, high_deg },
      ArrowRight: { round_deg: round_deg - STEP_deg, high_deg },
      ArrowUp: { round_deg, high_deg: limited(high_deg + STEP_deg) },
      ArrowDown: { round_deg, high_deg: limited(high_deg - STEP_deg) },
    }[event.key]
    if (!next) return
    event.preventDefault()
    onLight(next)
  }
  return (
    <svg
      ref={pad}
      viewBox="-52 -52 104 104"
      className={styles.pad}
      role="slider"
      tabIndex={0}
      aria-label="Where the light comes from"
      aria-valuemin={LOWEST_deg}
      aria-valuemax={90}
      aria-valuenow={light.high_deg}
      aria-valuetext={`${light.high_deg}° above the picture, from ${sideText(light.round_deg)}`}
      onKeyDown={onKeyDown}
      onPointerDown={(event) => (event.currentTarget.setPointerCapture(event.pointerId), follow(event))}
      onPointerMove={(event) => event.buttons > 0 && follow(event)}
    >
      <circle r={RADIUS} />
      <circle r={RADIUS / 2} />
      <circle r={7} cx={away * Math.cos(round)} cy={-away * Math.sin(round)} className={styles.sun} />
    </svg>
  )
}

const SIDES = ['the right', 'the upper right', 'above', 'the upper left', 'the left', 'the lower left', 'below', 'the lower right']

/** The side that an angle points to, in words. */
export const sideText = (round_deg: number): string => SIDES[((Math.round(round_deg / 45) % 8) + 8) % 8]
