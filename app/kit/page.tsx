import { KitScreen } from '@/ui/kit'

export default function Page() {
  return <KitScreen />
}
