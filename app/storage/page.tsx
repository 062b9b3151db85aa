import { StorageScreen } from '@/ui/storage'
import { Themed } from '@/ui/shell'

export default function Page() {
  return (
    <Themed>
      <StorageScreen />
    </Themed>
  )
}
