import { FramesFirstScreen } from '@/ui/shoot'
import { Themed } from '@/ui/shell'

export default function Page() {
  return (
    <Themed>
      <FramesFirstScreen />
    </Themed>
  )
}
