'use client'

import { DeleteOutlined, DownloadOutlined, EditOutlined, PlusOutlined, UploadOutlined } from '@ant-design/icons'
import { Alert, App, Button, Popconfirm, Skeleton, Table, Upload } from 'antd'
import { useState } from 'react'
import { SHELVES, type Kit, type KitItem, type Shelf } from '@/core/kit'
import { useKit, useRemoveKitItem, useTakeKit } from '../api'
import { saveText } from '../save'
import { Shell } from '../shell'
import { factsText, kindText } from './facts'
import { KitForm } from './KitForm'
import styles from './kit.module.css'

/** Everything the studio has: what plans are made with. */
export function KitScreen() {
  const { data: kit, error } = useKit()
  const [editing, setEditing] = useState<{ shelf: Shelf; item?: KitItem }>()
  return (
    <Shell>
      <div className={styles.head}>
        <div>
          <h1>Kit</h1>
          <p>What plans are made with. A kept plan keeps its figures; open it to plan again with what is changed here.</p>
        </div>
        {kit && <InAndOut kit={kit} />}
      </div>
      {error && <Alert type="error" title={error.message} />}
      {!kit && !error && <Skeleton active />}
      {kit &&
        (Object.keys(SHELVES) as Shelf[]).map((shelf) => (
          <ShelfTable key={shelf} shelf={shelf} items={kit[shelf]} onEdit={(item) => setEditing({ shelf, item })} />
        ))}
      {editing && kit && <KitForm {...editing} kit={kit} onClose={() => setEditing(undefined)} />}
    </Shell>
  )
}

function InAndOut({ kit }: { kit: Kit }) {
  const { message } = App.useApp()
  const take = useTakeKit()
  const read = async (file: File) => {
    try {
      const taken = await take.mutateAsync(parse(await file.text()))
      message.success(`${taken} items taken in; those of the same name were replaced.`)
    } catch (cause) {
      message.error((cause as Error).message)
    }
  }
  return (
    <div className={styles.buttons}>
      <Button icon={<DownloadOutlined />} onClick={() => saveText('kit.json', JSON.stringify(kit, null, 2))}>
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
          Import
        </Button>
      </Upload>
    </div>
  )
}

function parse(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    throw new Error('This file is no JSON; give a kit that was exported here.')
  }
}

function ShelfTable({ shelf, items, onEdit }: { shelf: Shelf; items: KitItem[]; onEdit: (item?: KitItem) => void }) {
  const { title, one } = SHELVES[shelf]
  const { message } = App.useApp()
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
        rowKey="name"
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
                  onConfirm={() => remove.mutate({ shelf, name: item.name }, { onError: (cause) => message.error(cause.message) })}
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

const aOr = (what: string) => `${/^[aeiou]/.test(what) ? 'an' : 'a'} ${what}`
