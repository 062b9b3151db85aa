import { Dropdown, Input, Segmented } from 'antd'
import { CAPTION_FACTS, type CaptionFact } from '@/core/finish'
import type { Editor } from './editor'

/** What each fact is called where it is put in. */
const FACTS: Record<CaptionFact, string> = {
  title: 'Title',
  subject: 'Subject',
  date: 'Date',
  magnification: 'Magnification',
  depth: 'Depth of the series',
  lens: 'Lens',
  aperture: 'Aperture',
  frames: 'How many frames',
  style: 'Style',
}

export const caption: Editor<'caption'> = {
  Fields: ({ step, onStep }) => (
    <>
      <Input.TextArea
        aria-label="Words beneath the picture"
        autoSize={{ minRows: 2, maxRows: 8 }}
        maxLength={1000}
        value={step.text}
        onChange={({ target }) => onStep({ ...step, text: target.value || ' ' }, 'text')}
      />
      <Dropdown
        trigger={['click']}
        menu={{
          items: CAPTION_FACTS.map((fact) => ({ key: fact, label: FACTS[fact] })),
          onClick: ({ key }) => onStep({ ...step, text: `${step.text.trimEnd()}${/[\n]$/.test(step.text) ? '' : ' '}{${key}}` }),
        }}
      >
        <button type="button">Put in what is known</button>
      </Dropdown>
      <Segmented
        aria-label="Paper"
        options={[
          { value: 'light', label: 'Dark on light' },
          { value: 'dark', label: 'Light on dark' },
        ]}
        value={step.tone}
        onChange={(tone) => onStep({ ...step, tone: tone as 'light' | 'dark' })}
      />
      <p>Each picture fills in its own. A line of which nothing is known is left out.</p>
    </>
  ),
}
