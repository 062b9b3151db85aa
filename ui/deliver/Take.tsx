'use client'

import { Checkbox, InputNumber, Select } from 'antd'
import { useState } from 'react'
import type { Profile, Recipe } from '@/core/finish'
import { FINISHED_FORMATS, LOSSLESS, type FinishedFormat } from '@/schemas/formats'
import { runJob } from '../api'
import { message } from '../messages'
import { fetchFile } from '../save'
import styles from './deliver.module.css'

export const FORMAT_NAMES: Record<FinishedFormat, string> = {
  tif: 'TIFF',
  png: 'PNG',
  jpg: 'JPEG',
  webp: 'WebP',
  avif: 'AVIF',
  ora: 'Layers (OpenRaster)',
  pages: 'Layers (TIFF, a page each)',
}
const COLOURS: Record<Profile, string> = {
  keep: 'Colours as they are',
  srgb: 'sRGB, for screens everywhere',
  p3: 'P3, for wide screens',
  wide: 'Wide, to go on elsewhere',
}

interface Props {
  renderId: number
  recipe: Recipe
  onRecipe: (recipe: Recipe, kind?: string) => void
}

/** What the picture is written as, and writing it. */
export function Take({ renderId, recipe, onRecipe }: Props) {
  const [format, setFormat] = useState<FinishedFormat>('jpg')
  const [writing, setWriting] = useState(false)
  const lossless = LOSSLESS.includes(format)
  const take = async () => {
    setWriting(true)
    try {
      const result = await runJob<'finish'>(`/api/renders/${renderId}/finish`, { recipe, format })
      fetchFile(`/api/renders/${renderId}/finished?name=${encodeURIComponent(result!.name)}`)
    } catch (cause) {
      void message.error((cause as Error).message)
    } finally {
      setWriting(false)
    }
  }
  return (
    <section aria-label="Write the file" className={styles.take}>
      <Select
        aria-label="Format"
        value={format}
        onChange={setFormat}
        options={FINISHED_FORMATS.map((value) => ({ value, label: FORMAT_NAMES[value] }))}
      />
      <Select
        aria-label="Colours"
        value={recipe.profile}
        onChange={(profile: Profile) => onRecipe({ ...recipe, profile })}
        options={Object.entries(COLOURS).map(([value, label]) => ({ value, label }))}
        popupMatchSelectWidth={false}
      />
      {lossless ? (
        <Checkbox checked={recipe.bits === 16} onChange={({ target }) => onRecipe({ ...recipe, bits: target.checked ? 16 : 8 })}>
          16 bit
        </Checkbox>
      ) : (
        <InputNumber
          aria-label="Quality"
          style={{ width: 130 }}
          min={1}
          max={100}
          prefix="Quality"
          value={recipe.quality}
          onChange={(quality) => quality && onRecipe({ ...recipe, quality: Math.round(quality) }, 'quality')}
        />
      )}
      <button type="button" className={styles.main} disabled={writing} onClick={() => void take()}>
        {writing ? 'Writing…' : 'Write the file'}
      </button>
    </section>
  )
}
