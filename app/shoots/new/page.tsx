import { PlanScreen } from '@/ui/plan'

export default function Page() {
  return <PlanScreen />
}
