import { Select } from 'antd'
import { useDeferredValue, useState } from 'react'
import { useShoots } from './api'

interface Props {
  label: string
  className?: string
  onChange: (id: number) => void
}

/** Chooses a shoot: what is typed is looked for in titles and notes, and more come as one scrolls. */
export function ShootSelect({ label, className, onChange }: Props) {
  const [search, setSearch] = useState('')
  const words = useDeferredValue(search).trim()
  const { data, isFetching, hasNextPage, fetchNextPage } = useShoots({ words, state: '', order: 'changed' })
  return (
    <Select
      className={className}
      aria-label={label}
      placeholder={label}
      showSearch
      filterOption={false}
      onSearch={setSearch}
      loading={isFetching}
      onChange={onChange}
      onPopupScroll={({ currentTarget: { scrollTop, scrollHeight, clientHeight } }) => {
        if (hasNextPage && !isFetching && scrollHeight - scrollTop - clientHeight < clientHeight) void fetchNextPage()
      }}
      options={data?.pages.flatMap(({ shoots }) => shoots.map(({ id, title }) => ({ value: id, label: title })))}
    />
  )
}
