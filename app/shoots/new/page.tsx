import { PlanScreen } from '@/ui/plan'
import { Themed } from '@/ui/shell'

export default function Page() {
  return (
    <Themed>
      <PlanScreen />
    </Themed>
  )
}
