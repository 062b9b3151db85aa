import { PracticeScreen } from '@/ui/practice'

export default function Page() {
  return <PracticeScreen />
}
