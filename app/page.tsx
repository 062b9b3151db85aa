import { HomeScreen } from '@/ui/home'

export default function Page() {
  return <HomeScreen />
}
