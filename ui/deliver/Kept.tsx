'use client'

import { useQuery, useQueryClient } from '@tanstack/react-query'
import { Input, Modal, Select } from 'antd'
import { useRef, useState, type ChangeEvent } from 'react'
import { fittedRecipe, type MadeFor, type Recipe } from '@/core/finish'
import type { RecipeDetail } from '@/schemas'
import { fetchJson, send } from '../api'
import { message } from '../messages'
import { saveText } from '../save'
import { Batch } from './Batch'
import styles from './deliver.module.css'

interface Props {
  shootId: number
  /** What recipes are kept for here, and fitted to where they come from elsewhere. */
  picture: MadeFor
  recipe: Recipe
  onRecipe: (recipe: Recipe) => void
}

/** Recipes under names: to use here, to keep, to take along as JSON, and to carry out on many pictures at once. */
export function Kept({ shootId, picture, recipe, onRecipe }: Props) {
  const client = useQueryClient()
  const { data: kept = [] } = useQuery({ queryKey: ['recipes'], queryFn: () => fetchJson<RecipeDetail[]>('/api/recipes') })
  const [name, setName] = useState<string>()
  const [batch, setBatch] = useState(false)
  const file = useRef<HTMLInputElement>(null)
  const tell = (cause: Error) => void message.error(cause.message)
  const travelling = { ...recipe, for: picture }
  const fit = (other: Recipe) => {
    try {
      onRecipe(fittedRecipe(other, picture))
    } catch (cause) {
      tell(cause as Error)
    }
  }
  const keep = () =>
    void send('/api/recipes', 'POST', { name, recipe: travelling }).then(() => {
      setName(undefined)
      void client.invalidateQueries({ queryKey: ['recipes'] })
    }, tell)
  const bring = async ({ target }: ChangeEvent<HTMLInputElement>) => {
    const [chosen] = target.files ?? []
    if (!chosen) return
    target.value = ''
    try {
      const { checkRecipe } = await import('@/schemas')
      fit(checkRecipe(JSON.parse(await chosen.text())))
    } catch (cause) {
      tell(cause instanceof SyntaxError ? new Error('This file holds no recipe. Choose one that was taken along from here.') : (cause as Error))
    }
  }
  return (
    <section aria-label="Recipes" className={styles.kept}>
      <Select
        aria-label="Use a recipe"
        placeholder="Use a recipe"
        value={null}
        onChange={(id: number) => fit(kept.find((each) => each.id === id)!.recipe)}
        notFoundContent="None is kept yet."
        options={kept.map(({ id, name: called }) => ({ value: id, label: called }))}
      />
      <div className={styles.history}>
        <button type="button" onClick={() => setName('')}>
          Keep it
        </button>
        <button type="button" onClick={() => setBatch(true)} disabled={kept.length === 0}>
          Finish many
        </button>
        <button type="button" onClick={() => saveText('recipe.json', JSON.stringify({ version: 1, ...travelling }, null, 2))}>
          Take along
        </button>
        <button type="button" onClick={() => file.current?.click()}>
          Bring
        </button>
        <input ref={file} type="file" accept=".json,application/json" hidden aria-label="Recipe file" onChange={(event) => void bring(event)} />
      </div>
      <Modal
        open={name !== undefined}
        title="Keep this recipe"
        okText="Keep"
        onOk={keep}
        okButtonProps={{ disabled: !name?.trim() }}
        onCancel={() => setName(undefined)}
      >
        <Input
          aria-label="Name of the recipe"
          placeholder="Catalogue, 30 cm"
          value={name}
          onChange={({ target }) => setName(target.value)}
          onPressEnter={keep}
        />
      </Modal>
      {batch && <Batch shootId={shootId} kept={kept} onClose={() => setBatch(false)} />}
    </section>
  )
}
