import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'

/** What a link says; see core/share. */
export type Link = Schemas['Link']

/** Which page is shared. */
export interface Shared {
  kind: 'type' | 'person' | 'team' | 'workspace'
  id: number
}

/** The addresses and texts to share a page with; while others are asked for, the last ones stay. */
export function useSharing({ kind, id }: Shared, says: Link, language: string) {
  return useQuery<Schemas['Sharing'], Refusal>({
    queryKey: keys.sharing(kind, id, says, language),
    queryFn: () => need(api.POST('/share', { params: { query: { kind, id, language } }, body: says })),
    placeholderData: keepPreviousData,
  })
}

/** Where the file is that a page's code, or a sheet of it, comes as. */
export function fileOf(file: string, { kind, id }: Shared, query: string, more: Record<string, string> = {}): string {
  return `/api/share/${file}?${new URLSearchParams({ kind, id: String(id), says: query, ...more })}`
}
