import { PhoneScreen } from '@/ui/phone'
import { Themed } from '@/ui/shell'

export default function Page() {
  return (
    <Themed>
      <PhoneScreen />
    </Themed>
  )
}
