'use client'

import { Button, Modal, Select, Upload } from 'antd'
import { useState, type KeyboardEvent, type PointerEvent } from 'react'
import { lengthText } from '@/core/units'
import { useUnits } from '../../units'
import { usePlan } from '../planStore'
import { LengthInput } from './Field'
import { rulerAcross_mm, type Point } from './ruler'
import styles from './inputs.module.css'

const NAMES = ['first mark', 'second mark']

/** Measures a magnification in a picture of a ruler: two marks, and how far apart they are on the ruler. */
export function RulerMeasure() {
  const change = usePlan((state) => state.change)
  const pictures = usePlan((state) => state.pictures)
  const { system } = useUnits()
  const [open, setOpen] = useState(false)
  const [picture, setPicture] = useState<string>()
  const [marks, setMarks] = useState<[Point, Point]>([
    { x: 0.25, y: 0.5 },
    { x: 0.75, y: 0.5 },
  ])
  const [held, setHeld] = useState<0 | 1>()
  const [apart_mm, setApart] = useState<number | null>(10)
  const [ratio, setRatio] = useState(2 / 3)
  const across_mm = apart_mm && apart_mm > 0 ? rulerAcross_mm(marks, ratio, apart_mm) : undefined

  const show = (address: string) =>
    setPicture((before) => {
      if (before?.startsWith('blob:')) URL.revokeObjectURL(before)
      return address
    })
  const choose = (file: File) => {
    show(URL.createObjectURL(file))
    return false
  }
  const put = (which: 0 | 1, point: Point) => setMarks((before) => (which === 0 ? [point, before[1]] : [before[0], point]))
  const drag = (event: PointerEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect()
    const point = { x: clip((event.clientX - box.left) / box.width), y: clip((event.clientY - box.top) / box.height) }
    if (event.type === 'pointerdown') {
      const which = nearer(marks, point)
      event.currentTarget.setPointerCapture(event.pointerId)
      setHeld(which)
      put(which, point)
    } else if (held !== undefined) put(held, point)
  }
  const nudge = (which: 0 | 1) => (event: KeyboardEvent) => {
    const by = event.shiftKey ? 0.02 : 0.001
    const step = { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, -by], ArrowDown: [0, by] }[event.key]
    if (!step) return
    event.preventDefault()
    put(which, { x: clip(marks[which].x + step[0]), y: clip(marks[which].y + step[1]) })
  }

  return (
    <div className={styles.field}>
      <Button size="small" onClick={() => setOpen(true)}>
        Measure in a picture of a ruler…
      </Button>
      <Modal
        open={open}
        title="Measure with a ruler in the picture"
        width={760}
        onCancel={() => setOpen(false)}
        okText={across_mm ? `Take ${lengthText(across_mm, system)} across the frame` : 'Use this length'}
        okButtonProps={{ disabled: !picture || !across_mm }}
        onOk={() => {
          change({ acrossFrame_mm: across_mm! })
          setOpen(false)
        }}
      >
        <p className={styles.hint}>
          Lay a ruler where the subject will be, square to the lens, focus on it and take a frame. Put the two marks on lines of the ruler, far apart.
          Arrow keys move the chosen mark; with Shift, in larger steps.
        </p>
        <div className={styles.rulerBar}>
          <Upload accept="image/jpeg,image/png" showUploadList={false} beforeUpload={choose}>
            <Button>{picture ? 'Another picture' : 'Choose a picture'}</Button>
          </Upload>
          {pictures.length > 0 && (
            <Select
              aria-label="A frame of this shoot"
              placeholder="or a frame of this shoot"
              showSearch
              options={pictures.map(({ label, address }) => ({ value: address, label }))}
              onChange={show}
              style={{ width: 230 }}
            />
          )}
          <label>
            Between the marks <LengthInput value={apart_mm} onChange={setApart} scale="close" system={system} label="Length between the marks" />
          </label>
        </div>
        {picture && (
          <div className={styles.ruler}>
            <img
              src={picture}
              alt="Ruler to be measured"
              onLoad={({ currentTarget: { naturalWidth, naturalHeight } }) => setRatio(naturalHeight / naturalWidth)}
            />
            <svg viewBox={`0 0 1 ${ratio}`} onPointerDown={drag} onPointerMove={drag} onPointerUp={() => setHeld(undefined)}>
              <line x1={marks[0].x} y1={marks[0].y * ratio} x2={marks[1].x} y2={marks[1].y * ratio} />
              {marks.map(({ x, y }, k) => (
                <g
                  key={k}
                  transform={`translate(${x} ${y * ratio})`}
                  tabIndex={0}
                  role="slider"
                  aria-label={NAMES[k]}
                  aria-valuenow={Math.round(x * 1000) / 10}
                  aria-valuetext={`${(x * 100).toFixed(1)} % across, ${(y * 100).toFixed(1)} % down`}
                  onKeyDown={nudge(k as 0 | 1)}
                >
                  <circle r={0.016} />
                  <path d="M -0.03 0 H -0.004 M 0.004 0 H 0.03 M 0 -0.03 V -0.004 M 0 0.004 V 0.03" />
                </g>
              ))}
            </svg>
          </div>
        )}
      </Modal>
    </div>
  )
}

const clip = (value: number) => Math.min(1, Math.max(0, value))

function nearer([a, b]: [Point, Point], point: Point): 0 | 1 {
  return Math.hypot(a.x - point.x, a.y - point.y) <= Math.hypot(b.x - point.x, b.y - point.y) ? 0 : 1
}
