'use client'

import { Button, Select, Switch } from 'antd'
import { useEffect, useState, type MouseEvent } from 'react'
import { exposureText } from '@/core/units'
import type { Tones } from '@/schemas'
import { message } from '../messages'
import { FaultSelect } from '../faults'
import { NumberInput } from '../forms'
import { TonesView } from './TonesView'
import type { Devices } from './useDevices'
import styles from './field.module.css'

export interface DevicesProps {
  devices: Devices
  faults: string[]
  onFaults: (faults: string[]) => void
  /** They are on, with pictures of this width. */
  onOpen: (width_px: number) => void
  /** A run by itself is under way: the hand leaves the devices alone. */
  busy: boolean
  byRail: boolean
  onTest: () => void
  onDivider: () => void
}

const APERTURES = [2.8, 4, 5.6, 8, 11, 16, 22].map((value) => ({ value, label: `f/${value}` }))
const TIMES = [1 / 250, 1 / 125, 1 / 60, 1 / 30, 1 / 15, 1 / 8, 1 / 4, 1 / 2, 1, 2, 4, 8, 15, 30]
const ISOS = [100, 200, 400, 800, 1600, 3200].map((value) => ({ value, label: `ISO ${value}` }))
/** The simulated camera, rail and flash, for a shoot without any. */
export function DevicesPanel({ devices, faults, onFaults, onOpen, busy, byRail, onTest, onDivider }: DevicesProps) {
  const { reply, ask, on, forget } = devices
  const [tones, setTones] = useState<Tones>()
  const [width_px, setWidth] = useState(1200)
  const [opening, setOpening] = useState(false)
  const onError = (error: Error) => void message.error(error.message)
  const open = () => {
    setOpening(true)
    ask({ do: 'open', faults: faults as never[], width_px })
      .then(() => onOpen(width_px), onError)
      .finally(() => setOpening(false))
  }
  if (!on || !reply) {
    return (
      <section className={styles.devices} aria-label="Simulated devices">
        <h2>No camera at hand?</h2>
        <p>The simulated camera, {byRail ? 'rail' : 'focus drive'} and remote can shoot this plan. Press the buttons yourself or let them run.</p>
        {/* Running on past the subject is done by hand here: by going on. */}
        <FaultSelect label="What goes wrong" value={faults} onChange={onFaults} without={['runsOn', 'stirred']} />
        <div className={styles.row}>
          <Select
            aria-label="Picture size"
            value={width_px}
            onChange={setWidth}
            options={[
              { value: 1200, label: '1 megapixel, quick' },
              { value: 3000, label: '6 megapixels' },
            ]}
          />
          <Button onClick={open} loading={opening}>
            Switch them on
          </Button>
        </div>
      </section>
    )
  }
  const { camera, rail, flash } = reply
  const set = (change: object) => ask({ do: 'set', change }).catch(onError)
  const test = () =>
    ask({ do: 'press', test: true })
      .then((answer) => {
        setTones(answer.tones)
        onTest()
      })
      .catch(onError)
  const times = TIMES.some((time) => Math.abs(time / camera.shutter_s - 1) < 0.02) ? TIMES : [...TIMES, camera.shutter_s].sort((a, b) => a - b)
  return (
    <section className={styles.devices} aria-label="Simulated devices">
      <LiveView devices={devices} paused={busy} onLost={forget} />
      <div className={styles.row}>
        <Select aria-label="Aperture" value={camera.fNumber} onChange={(fNumber) => set({ fNumber })} options={APERTURES} disabled={busy} />
        <Select
          aria-label="Exposure time"
          value={times.find((time) => Math.abs(time / camera.shutter_s - 1) < 0.02)}
          onChange={(shutter_s) => set({ shutter_s })}
          options={times.map((value) => ({ value, label: exposureText(value) }))}
          disabled={busy}
        />
        <Select aria-label="ISO" value={camera.iso} onChange={(iso) => set({ iso })} options={ISOS} disabled={busy} />
      </div>
      {!reply.ready && <p role="status">Preparing the scene for frames of this size. The first frame takes a few seconds longer.</p>}
      <p className={styles.stock}>
        Battery {camera.battery_percent} % · card {camera.cardFrames} frames
        {flash && (flash.recycling_s > 0 ? ` · flash charging ${flash.recycling_s.toFixed(1)} s` : ' · flash ready')}
        {' · '}
        {rail ? `rail ${rail.position_mm.toFixed(2)} mm` : `drive at step ${camera.focusStep}`}
      </p>
      <div className={styles.row}>
        {rail ? (
          <NumberInput
            aria-label="Rail position in mm"
            value={Number(rail.position_mm.toFixed(3))}
            step={0.1}
            disabled={busy}
            onChange={(position_mm) => position_mm !== null && Number.isFinite(position_mm) && ask({ do: 'move', position_mm }).catch(onError)}
            suffix="mm"
          />
        ) : (
          [-20, -2, 2, 20].map((steps) => (
            <Button key={steps} disabled={busy} onClick={() => ask({ do: 'drive', steps }).catch(onError)}>
              {steps > 0 ? `far ${steps}` : `near ${-steps}`}
            </Button>
          ))
        )}
        <span>
          <Switch checked={camera.sensorShift} onChange={(sensorShift) => set({ sensorShift })} aria-label="Sensor shift" disabled={busy} /> sensor
          shift
        </span>
      </div>
      <div className={styles.row}>
        <Button onClick={test} disabled={busy}>
          Test frame
        </Button>
        <Button onClick={onDivider} disabled={busy}>
          Hold a hand before the lens
        </Button>
        {camera.battery_percent < 1 && <Button onClick={() => ask({ do: 'supply', what: 'battery' }).catch(onError)}>Change the battery</Button>}
        {camera.cardFrames < 1 && <Button onClick={() => ask({ do: 'supply', what: 'card' }).catch(onError)}>Change the card</Button>}
      </div>
      {tones && <TonesView tones={tones} />}
    </section>
  )
}

/** What the camera sees, with the contrast in the spot that was tapped; the best so far stands beside it. */
function LiveView({ devices, paused, onLost }: { devices: Devices; paused: boolean; onLost: () => void }) {
  const { ask, reply } = devices
  const [look, setLook] = useState({ spot: { x: 0.5, y: 0.5 }, magnifier: false })
  const [best, setBest] = useState(0)
  useEffect(() => {
    let over = paused
    const again = async () => {
      while (!over) {
        const answer = await ask({ do: 'look', look }).catch(() => undefined)
        if (over) return
        if (!answer) return onLost()
        setBest((before) => Math.max(before, answer.contrast ?? 0))
        await new Promise((resolve) => setTimeout(resolve, 120))
      }
    }
    void again()
    return () => {
      over = true
    }
  }, [ask, look, paused, onLost])
  const onPick = ({ currentTarget, clientX, clientY }: MouseEvent<HTMLElement>) => {
    const { left, top, width, height } = currentTarget.getBoundingClientRect()
    setBest(0)
    setLook({ spot: { x: (clientX - left) / width, y: (clientY - top) / height }, magnifier: false })
  }
  const contrast = reply?.contrast ?? 0
  // What came while it was paused may be better than what was seen by looking.
  const most = Math.max(best, contrast)
  return (
    <figure className={styles.live}>
      <button type="button" onClick={onPick} aria-label="Live view: tap where to measure contrast">
        {reply?.jpeg ? <img src={`data:image/jpeg;base64,${reply.jpeg}`} alt="What the simulated camera sees" /> : <span>Setting up the bench…</span>}
        {reply?.jpeg && !look.magnifier && <i style={{ left: `${look.spot.x * 100}%`, top: `${look.spot.y * 100}%` }} />}
      </button>
      <figcaption>
        <span>
          Contrast {contrast.toFixed(1)}
          {most > 0 && `, best ${most.toFixed(1)}`}
        </span>
        <meter min={0} max={Math.max(most, 1)} value={contrast} aria-label="Contrast in the spot against the best so far" />
        <Button
          size="small"
          onClick={() => {
            setBest(0)
            setLook({ ...look, magnifier: !look.magnifier })
          }}
        >
          {look.magnifier ? 'Whole picture' : 'Magnify the spot'}
        </Button>
      </figcaption>
    </figure>
  )
}
