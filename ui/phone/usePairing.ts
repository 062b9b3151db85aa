import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import type { PairingOffer, PairingState } from '@/schemas'
import { fetchJson, send } from '../api'

const KEY = ['pairing']
/** A device that was just paired is to show while one still looks. */
const ASK_AGAIN_ms = 2000

export const usePairing = () => useQuery({ queryKey: KEY, queryFn: () => fetchJson<PairingState>('/api/pairing'), refetchInterval: ASK_AGAIN_ms })

export const useOffer = () => useMutation({ mutationFn: () => send<PairingOffer>('/api/pairing', 'POST') })

export function useRevoke() {
  const client = useQueryClient()
  return useMutation({
    mutationFn: (id: string) => send(`/api/pairing/${id}`, 'DELETE'),
    onSettled: () => client.invalidateQueries({ queryKey: KEY }),
  })
}
