import { useMutation, useQueryClient } from '@tanstack/react-query'
import type { Refusal } from '../../api/client'
import { hasChanged } from '../../api/keys'

/** A change after which the board, and all that counts open times, is asked for anew. */
export function useBoardChange<Input, Made = unknown>(change: (input: Input) => Promise<Made>) {
  const client = useQueryClient()
  return useMutation<Made, Refusal, Input>({
    mutationFn: change,
    onSuccess: () => void hasChanged(client, 'bookings'),
  })
}
