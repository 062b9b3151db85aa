'use client'

import { AutoComplete, Checkbox, Form, Input, Modal, Select } from 'antd'
import { fieldsOf, SHELVES, type Kit, type KitField, type KitItem, type Shelf } from '@/core/kit'
import { NumberInput } from '../forms'
import { RefusedError, useSaveKitItem } from '../api'
import styles from './kit.module.css'

interface Props {
  shelf: Shelf
  /** The item to change; absent for a new one. */
  item?: KitItem
  kit: Kit
  onClose: () => void
}

/** The facts of one item, asked for by its kind. */
export function KitForm({ shelf, item, kit, onClose }: Props) {
  const { kinds, one } = SHELVES[shelf]
  const [form] = Form.useForm<Record<string, unknown>>()
  const save = useSaveKitItem()
  const kind = Form.useWatch('kind', form) ?? (item as { kind?: string } | undefined)?.kind ?? kinds?.[0].value
  const fields = fieldsOf(shelf, kind as string | undefined)

  /** What was refused is refused no more once it is changed. */
  const forgive = (changed: object) => form.setFields(Object.keys(changed).map((name) => ({ name, errors: [] })))

  const submit = async () => {
    const values = form.getFieldsValue()
    const given = Object.fromEntries(
      ['name', ...(kinds ? ['kind'] : []), ...fields.map(({ key }) => key)].map((key) => [key, values[key] ?? undefined]),
    )
    try {
      await save.mutateAsync({ shelf, item: given as unknown as KitItem, id: item?.id })
      onClose()
    } catch (cause) {
      const { message, field } = cause as RefusedError
      const key = field || 'name'
      form.setFields([{ name: key, errors: [message] }])
      form.getFieldInstance(key)?.focus()
    }
  }

  return (
    <Modal
      open
      title={item ? `Change ${item.name}` : `Add to the kit: ${one}`}
      okText="Save"
      confirmLoading={save.isPending}
      onOk={() => void submit()}
      onCancel={onClose}
      afterOpenChange={(open) => open && form.getFieldInstance('name')?.focus()}
      width={560}
    >
      <Form
        form={form}
        layout="vertical"
        initialValues={{ kind: kinds?.[0].value, ...item }}
        onFinish={() => void submit()}
        onValuesChange={forgive}
        className={styles.form}
      >
        <Form.Item name="name" label="Name" className={styles.across}>
          <Input maxLength={80} placeholder="Your name for it" />
        </Form.Item>
        {kinds && (
          <Form.Item name="kind" label="Kind" className={styles.across}>
            <Select options={kinds} />
          </Form.Item>
        )}
        {fields.map((field) => (
          <Form.Item
            key={field.key}
            name={field.key}
            label={field.flag ? undefined : field.optional ? `${field.label} (optional)` : field.label}
            valuePropName={field.flag ? 'checked' : undefined}
            className={field.text || field.flag ? styles.across : undefined}
          >
            <FactInput field={field} kit={kit} />
          </Form.Item>
        ))}
        <button type="submit" hidden />
      </Form>
    </Modal>
  )
}

/** Which items of the kit a fact names. */
const NAMED: Record<string, (kit: Kit) => { name: string }[]> = { body: ({ bodies }) => bodies, rail: ({ rails }) => rails }

/** The input of one fact; a name of the kit is offered where one is meant. */
function FactInput({ field, kit, ...rest }: { field: KitField; kit: Kit }) {
  if (field.flag) return <Checkbox {...rest}>{field.label}</Checkbox>
  if (!field.text) return <NumberInput {...rest} suffix={field.unit} />
  if (field.key === 'scaleMarks') return <Input {...rest} suffix={field.unit} placeholder="0.25 0.3 0.5 1 ∞" maxLength={80} />
  const names = NAMED[field.key]?.(kit) ?? kit.lenses
  return <AutoComplete {...rest} options={names.map(({ name }) => ({ value: name }))} />
}
