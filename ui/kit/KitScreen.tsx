'use client'

import { DeleteOutlined, DownloadOutlined, EditOutlined, PlusOutlined, UploadOutlined } from '@ant-design/icons'
import dynamic from 'next/dynamic'
import { Alert, Button, Modal, Popconfirm, Skeleton, Table, Upload } from 'antd'
import { useState } from 'react'
import { SHELVES, type Calibration, type Kit, type KitItem, type Shelf } from '@/core/kit'
import { message } from '../messages'
import { useKit, useRemoveKitItem, useSaveKitItem, useTakeKit } from '../api'
import { saveText } from '../save'
import { Shell } from '../shell'
import { factsText, kindText } from './facts'
import { KitForm } from './KitForm'
import styles from './kit.module.css'

const MeasureSheet = dynamic(() => import('./MeasureSheet').then((part) => part.MeasureSheet), { ssr: false })

/** Everything the studio has: what plans are made with. */
export function KitScreen() {
  const { data: kit, error } = useKit()
  const [measuring, setMeasuring] = useState(false)
  const [editing, setEditing] = useState<{ shelf: Shelf; item?: KitItem }>()
  return (
    <Shell>
      <div className={styles.head}>
        <div>
          <h1>Kit</h1>
          <p>What you plan with. Changes apply to new plans; runs keep the kit they were shot with.</p>
        </div>
        {kit && <InAndOut kit={kit} onMeasure={() => setMeasuring(true)} />}
      </div>
      {error && <Alert type="error" title={error.message} />}
      {!kit && !error && <Skeleton active />}
      {kit &&
        (Object.keys(SHELVES) as Shelf[]).map((shelf) => (
          <ShelfTable key={shelf} shelf={shelf} items={kit[shelf]} onEdit={(item) => setEditing({ shelf, item })} />
        ))}
      {measuring && kit && <MeasureSheet kit={kit} onClose={() => setMeasuring(false)} />}
      {editing && kit && <KitForm {...editing} kit={kit} onClose={() => setEditing(undefined)} />}
    </Shell>
  )
}

/** A kit to be imported, and what that does: nothing of it is done before it is said. */
interface Arriving {
  kit: Kit
  replaced: string[]
  added: number
}

function InAndOut({ kit, onMeasure }: { kit: Kit; onMeasure: () => void }) {
  const take = useTakeKit()
  const [arriving, setArriving] = useState<Arriving>()
  const read = async (file: File) => {
    try {
      // What checks it is large, and only needed here.
      const { checkKit } = await import('@/schemas')
      const brought = checkKit(parse(await file.text()))
      const shelves = Object.keys(SHELVES) as Shelf[]
      const items = shelves.flatMap((shelf) => brought[shelf].map(({ name }: KitItem) => ({ shelf, name })))
      const known = items.filter(({ shelf, name }) => kit[shelf].some((item: KitItem) => item.name === name))
      setArriving({ kit: brought, replaced: known.map(({ name }) => name), added: items.length - known.length })
    } catch (cause) {
      message.error((cause as Error).message)
    }
  }
  const onOk = () =>
    take.mutate(arriving!.kit, {
      onSuccess: (taken) => message.success(`${taken} ${taken === 1 ? 'item' : 'items'} imported.`),
      onError: (cause) => message.error(cause.message),
      onSettled: () => setArriving(undefined),
    })
  return (
    <div className={styles.buttons}>
      <Button onClick={onMeasure}>Measure with a printed sheet</Button>
      <Button icon={<DownloadOutlined />} onClick={() => saveText('kit.json', JSON.stringify(withoutNumbers(kit), null, 2))}>
        Export as JSON
      </Button>
      <Upload
        accept="application/json,.json"
        showUploadList={false}
        beforeUpload={(file) => {
          void read(file)
          return false
        }}
      >
        <Button icon={<UploadOutlined />} loading={take.isPending}>
          Import…
        </Button>
      </Upload>
      {arriving && (
        <Modal open title="Import this kit?" okText="Import" confirmLoading={take.isPending} onOk={onOk} onCancel={() => setArriving(undefined)}>
          <p>
            {arriving.added} {arriving.added === 1 ? 'item is' : 'items are'} new.{' '}
            {arriving.replaced.length === 0
              ? 'Nothing is replaced.'
              : `${arriving.replaced.length} of your items are replaced by those of the same name:`}
          </p>
          {arriving.replaced.length > 0 && (
            <ul className={styles.replaced}>
              {arriving.replaced.map((name) => (
                <li key={name}>{name}</li>
              ))}
            </ul>
          )}
        </Modal>
      )}
    </div>
  )
}

/** As it is exported: numbers belong to this database. */
function withoutNumbers(kit: Kit): Kit {
  return Object.fromEntries(Object.entries(kit).map(([shelf, items]) => [shelf, items.map(({ id: _, ...item }: KitItem) => item)])) as unknown as Kit
}

function parse(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    throw new Error('This file does not hold valid JSON. Choose a kit that was exported here.')
  }
}

function ShelfTable({ shelf, items, onEdit }: { shelf: Shelf; items: KitItem[]; onEdit: (item?: KitItem) => void }) {
  const { title, one } = SHELVES[shelf]
  const remove = useRemoveKitItem()
  return (
    <section className={styles.shelf} aria-label={title}>
      <div className={styles.shelfHead}>
        <h2>{title}</h2>
        <Button size="small" icon={<PlusOutlined />} onClick={() => onEdit()}>
          Add {aOr(one)}
        </Button>
      </div>
      <Table<KitItem>
        size="small"
        rowKey="id"
        pagination={false}
        showHeader={false}
        dataSource={items}
        locale={{ emptyText: `No ${one} yet.` }}
        columns={[
          {
            key: 'item',
            render: (_, item) => (
              <>
                <strong>{item.name}</strong> <span className={styles.kind}>{kindText(shelf, item)}</span>
                <p className={styles.facts}>{factsText(shelf, item)}</p>
                {shelf === 'calibrations' && <LeaveOut item={item as Calibration} />}
              </>
            ),
          },
          {
            key: 'edit',
            align: 'right',
            width: 100,
            className: styles.edit,
            render: (_, item) => (
              <>
                <Button type="text" aria-label={`Change ${item.name}`} icon={<EditOutlined />} onClick={() => onEdit(item)} />
                <Popconfirm
                  title={`Remove ${item.name} from the kit?`}
                  okText="Remove"
                  onConfirm={() => remove.mutate({ shelf, id: item.id! }, { onError: (cause) => message.error(cause.message) })}
                >
                  <Button type="text" aria-label={`Remove ${item.name}`} icon={<DeleteOutlined />} />
                </Popconfirm>
              </>
            ),
          },
        ]}
      />
    </section>
  )
}

/** Keeps a measured stride and has plans go without it, or with it again. */
function LeaveOut({ item }: { item: Calibration }) {
  const save = useSaveKitItem()
  const { id, leftOut, ...facts } = item
  const change = () =>
    save.mutate(
      { shelf: 'calibrations', id, item: leftOut ? facts : { ...facts, leftOut: true } },
      { onError: (cause) => void message.error(cause.message) },
    )
  return (
    <Button size="small" loading={save.isPending} onClick={change} aria-label={`${leftOut ? 'Use' : 'Leave out'} ${item.name}`}>
      {leftOut ? 'Use again' : 'Leave out'}
    </Button>
  )
}

const aOr = (what: string) => `${/^[aeiou]/.test(what) ? 'an' : 'a'} ${what}`
