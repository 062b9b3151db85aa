import { Button } from 'antd'
import type { KitItem, Shelf } from '@/core/kit'
import { useSaveKitItem } from '../api'
import { message } from '../messages'

interface Props {
  shelf: Shelf
  item: KitItem
  /** It is there already, as it is. */
  kept: boolean
  /** What it is kept with, or for. */
  label: string
  keptText: string
  saved: string
}

/** A figure that a run told, to be kept with the kit for the next plan. */
export function KeepInKit({ shelf, item, kept, label, keptText, saved }: Props) {
  const save = useSaveKitItem()
  const keep = () =>
    save.mutate({ shelf, item, id: item.id }, { onSuccess: () => void message.success(saved), onError: (error) => void message.error(error.message) })
  return (
    <dd>
      {kept ? (
        keptText
      ) : (
        <Button size="small" loading={save.isPending} onClick={keep}>
          {label}
        </Button>
      )}
    </dd>
  )
}
