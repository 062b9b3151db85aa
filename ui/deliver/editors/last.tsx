import { useState } from 'react'
import { InputNumber, Select } from 'antd'
import { barText, roundLength_mm, type Place } from '@/core/finish'
import type Konva from 'konva'
import { Rect } from 'react-konva'
import { Amount } from './Amount'
import { Look, LOOK_px } from './Look'
import type { Editor } from './editor'
import { sharpenFor } from './sharpenFor'
import styles from '../deliver.module.css'

/** The place of the picture that was pointed at. */
function pointed(target: Konva.Node, times: number): Place {
  const { x, y } = target.getStage()!.getPointerPosition()!
  return [x / times, y / times]
}

export const sharpen: Editor<'sharpen'> = {
  // Where one looks closely: as large as the part is on the picture.
  Overlay: ({ look: [x, y], onLook, times, width, height }) => (
    <>
      <Rect
        width={width * times}
        height={height * times}
        onClick={({ target }) => onLook(pointed(target, times))}
        onTap={({ target }) => onLook(pointed(target, times))}
      />
      <Rect
        x={(x - LOOK_px.width / 2) * times}
        y={(y - LOOK_px.height / 2) * times}
        width={LOOK_px.width * times}
        height={LOOK_px.height * times}
        stroke="#fff"
        strokeWidth={1}
        shadowColor="#000"
        shadowBlur={2}
        listening={false}
      />
    </>
  ),
  Fields: function Fields({ step, onStep, width, renderId, full, upTo, look }) {
    const [use, setUse] = useState<'screen' | 'print'>('screen')
    const [paper, setPaper] = useState({ width_mm: 600, away_cm: 80 })
    const print = (change: Partial<typeof paper>) => {
      const next = { ...paper, ...change }
      setPaper(next)
      onStep({ ...step, ...sharpenFor({ kind: 'print', ...next, width_px: width }) }, 'print')
    }
    return (
      <>
        <Select
          aria-label="What it is sharpened for"
          style={{ width: '100%' }}
          value={use}
          onChange={(kind) => {
            setUse(kind)
            if (kind === 'print') print({})
            else onStep({ ...step, ...sharpenFor({ kind: 'screen' }) })
          }}
          options={[
            { value: 'screen', label: 'For a screen' },
            { value: 'print', label: 'For a print' },
          ]}
        />
        {use === 'print' && (
          <div className={styles.pair}>
            <InputNumber
              aria-label="Width of the print"
              min={20}
              max={20000}
              suffix="mm wide"
              value={paper.width_mm}
              onChange={(width_mm) => width_mm && print({ width_mm })}
            />
            <InputNumber
              aria-label="Seen from"
              min={10}
              max={2000}
              suffix="cm away"
              value={paper.away_cm}
              onChange={(away_cm) => away_cm && print({ away_cm })}
            />
          </div>
        )}
        <p>What is not sharp in any frame is spared. Over {step.radius_px.toFixed(1)} px.</p>
        <Amount
          label="How much"
          text={`${Math.round(100 * step.amount)} %`}
          value={step.amount}
          min={0}
          max={2}
          step={0.05}
          onValue={(amount) => onStep({ ...step, amount }, 'amount')}
        />
        <Look renderId={renderId} full={full} steps={upTo} at={look} />
      </>
    )
  },
}

export const scaleBar: Editor<'scaleBar'> = {
  Fields: ({ step, onStep, width, scale, scaleKnown }) => {
    const across_mm = (width / scale) * step.pixel_mm
    const lengths = [0.2, 0.5, 1, 2, 5].map((times) => times * roundLength_mm(across_mm)).filter((length) => length < 0.9 * across_mm)
    return (
      <>
        <Select
          aria-label="Length of the bar"
          style={{ width: '100%' }}
          value={step.length_mm}
          onChange={(length_mm: number) => onStep({ ...step, length_mm })}
          options={[...new Set([...lengths, step.length_mm])].sort((a, b) => a - b).map((length) => ({ value: length, label: barText(length) }))}
        />
        <InputNumber
          aria-label="Width of what the picture shows"
          style={{ width: '100%' }}
          min={0.01}
          max={1e7}
          suffix="mm across"
          value={Number(across_mm.toPrecision(4))}
          onChange={(mm) => mm && onStep({ ...step, pixel_mm: (mm * scale) / width, length_mm: roundLength_mm(mm) }, 'across')}
        />
        <p>
          {scaleKnown
            ? 'The width follows from the magnification of the plan; it is as sure as that is, and holds at one depth.'
            : 'No magnification is known of this run: say how much the picture shows from side to side.'}
        </p>
      </>
    )
  },
}
