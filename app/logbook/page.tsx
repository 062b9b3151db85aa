import { LogbookScreen } from '@/ui/logbook'
import { Themed } from '@/ui/shell'

export default function Page() {
  return (
    <Themed>
      <LogbookScreen />
    </Themed>
  )
}
