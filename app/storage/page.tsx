import { StorageScreen } from '@/ui/storage'

export default function Page() {
  return <StorageScreen />
}
