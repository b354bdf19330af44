import { useMutation, useQueryClient } from '@tanstack/react-query'
import type { Refusal } from '../../api/client'
import { hasChanged } from '../../api/keys'

/** A change after which the board, and all that counts open times, is asked for anew. */
export function useBoardChange<Input>(change: (input: Input) => Promise<unknown>) {
  const client = useQueryClient()
  return useMutation<unknown, Refusal, Input>({
    mutationFn: change,
    onSuccess: () => void hasChanged(client, 'bookings'),
  })
}
