import { KitScreen } from '@/ui/kit'
import { Themed } from '@/ui/shell'

export default function Page() {
  return (
    <Themed>
      <KitScreen />
    </Themed>
  )
}
