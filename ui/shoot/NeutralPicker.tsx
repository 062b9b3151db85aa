'use client'

import { Modal } from 'antd'
import { useState } from 'react'
import type { FrameDetail } from '@/schemas'
import { PlaceOnFrame, type FramePlace } from '../forms/PlaceOnFrame'

interface Props {
  frame: FrameDetail
  at?: FramePlace
  busy: boolean
  onPick: (place: FramePlace) => void
  onClose: () => void
}

/** A place of a raw frame that should be grey: a card, a stone, a white wall in the shade. */
export function NeutralPicker({ frame, at: before, busy, onPick, onClose }: Props) {
  const [at, setAt] = useState(before)
  return (
    <Modal
      open
      title="Make a place grey"
      okText="Develop all frames by it"
      okButtonProps={{ disabled: !at, loading: busy }}
      onOk={() => at && onPick(at)}
      onCancel={onClose}
    >
      <p>Click on something in {frame.name} that should be grey. All frames of the run are developed with that white balance.</p>
      <PlaceOnFrame frame={frame} width={frame.width} height={frame.height} what="grey place" at={at} onPlace={setAt} />
    </Modal>
  )
}
