'use client'

import { Checkbox, Slider } from 'antd'
import dynamic from 'next/dynamic'
import { useMemo, useState } from 'react'
import { measured, measuredAlong, type ProfilePoint } from '@/core/relief'
import type { RenderDetail } from '@/schemas'
import { saveText } from '../save'
import { useUnits } from '../units'
import { LightPad } from './LightPad'
import type { Light, Place } from './stage'
import { Turntable } from './Turntable'
import { useSurface, type ReliefData } from './useSurface'
import { csvOf, measuredText } from './words'
import styles from './relief.module.css'

const Profile = dynamic(() => import('./Profile').then((part) => part.Profile), { ssr: false, loading: () => <div className={styles.chart} /> })

/** From the upper left, as people are used to seeing things lit. */
const USUAL_LIGHT: Light = { round_deg: 135, high_deg: 40 }
const MM_PER_INCH = 25.4

interface Props {
  render: RenderDetail
  /** What can be taken along from here. */
  children?: React.ReactNode
}

/** The depth of a render as a relief: turned, lit from a side, and measured from A to B. */
export function ReliefTable({ render, children }: Props) {
  const { data, error } = useSurface(render.id)
  if (error) return <p role="alert">▲ {error.message}</p>
  if (!data) return <p role="status">The depth is being loaded …</p>
  return (
    <Loaded key={render.id} data={data}>
      {children}
    </Loaded>
  )
}

function Loaded({ data, children }: { data: ReliefData; children?: React.ReactNode }) {
  const { surface } = data
  const [wide, high] = [surface.width * surface.times, surface.height * surface.times]
  const [light, setLight] = useState<Light>()
  const [pictured, setPictured] = useState(true)
  const [height, setHeight] = useState(1)
  const [places, setPlaces] = useState<[Place, Place]>([
    [wide * 0.3, high * 0.5],
    [wide * 0.7, high * 0.5],
  ])
  const { system } = useUnits()
  const words = useMemo(() => measuredText(measured(surface, ...places), system), [surface, places, system])
  const true_mm = surface.unit === 'mm' && surface.pixelSize !== undefined
  const inches = true_mm && system === 'inches'
  const profile = useMemo(() => {
    const points = measuredAlong(surface, ...places)
    return inches ? points.map(inInches) : points
  }, [surface, places, inches])
  const [along, upward] = true_mm ? (inches ? ['in', 'in'] : ['mm', 'mm']) : ['px', surface.unit === 'mm' ? 'mm' : 'slices']
  return (
    <div className={styles.table}>
      <div>
        <Turntable data={data} light={light} pictured={pictured} height={height} places={places} onPlaces={setPlaces} />
        <p className={styles.below}>Drag to turn it, use the wheel to come nearer; arrow keys, + and −, and 0 for the front do the same.</p>
      </div>
      <aside className={styles.side}>
        <section aria-label="Measure" className={styles.measure}>
          <h2>Measure from A to B</h2>
          {words.map((sentence) => (
            <p key={sentence}>{sentence}</p>
          ))}
          <Profile points={profile} along={along} height={upward} />
          <button type="button" onClick={() => saveText('profile.csv', csvOf(profile, along, upward))}>
            Take the profile along
          </button>
        </section>
        <section aria-label="Look" className={styles.look}>
          <div className={styles.lights}>
            <div>
              <Checkbox checked={light !== undefined} onChange={({ target }) => setLight(target.checked ? USUAL_LIGHT : undefined)}>
                Light from the side
              </Checkbox>
              <Checkbox checked={pictured} onChange={({ target }) => setPictured(target.checked)}>
                With the picture on it
              </Checkbox>
            </div>
            {light && <LightPad light={light} onLight={setLight} />}
          </div>
          <label className={styles.height}>
            <span>{height === 1 ? (true_mm ? 'Height true to scale' : 'Height as chosen') : `${height} times as high`}</span>
            <Slider ariaLabelForHandle="Height" min={0.5} max={4} step={0.5} value={height} onChange={setHeight} />
          </label>
        </section>
        {children}
      </aside>
    </div>
  )
}

const inInches = ({ along, height, low, high }: ProfilePoint): ProfilePoint => ({
  along: along / MM_PER_INCH,
  height: height / MM_PER_INCH,
  low: low / MM_PER_INCH,
  high: high / MM_PER_INCH,
})
