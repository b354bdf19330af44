import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { hasChanged } from '../../api/keys'
import { useGo } from '../../edit/unsaved'
import { Ask } from '../../kit/Ask'
import { Need, TextField } from '../../kit/kit'
import { Sortable } from '../../kit/Sortable'
import { mostTypes, useMe, useToday, useTypes } from '../queries'
import { View } from '../Shell'
import { Undo } from '../Undo'
import { useDebounced } from '../useDebounced'
import { reasonsPath } from './Reasons'

type Type = Schemas['MeetingType']

/** The meeting types that the host offers, in the order in which clients see them. */
export function Types() {
  const [search, setSearch] = useState('')
  const types = useTypes(true, useDebounced(search))
  const [many, setMany] = useState(false) // once so: the field stays while what was found is few
  if (!many && types.data?.length === mostTypes) setMany(true)
  const today = useToday()
  const me = useMe().data?.person
  const go = useGo()
  const place = useTypesChange((order: number[]) => need(api.PUT('/types/order', { body: { order } })))
  const openOf = (id: number) => today.data?.open.find((type) => type.id === id)
  // While the new order is on its way it stands already.
  const [order, setOrder] = useState<number[] | null>(null)
  const listed = inOrder(types.data ?? [], place.isPending ? order : null)
  return (
    <View
      title="Meeting types"
      note={
        me && (
          <a href={`/p/${me.workspace}`} target="_blank" rel="noreferrer">
            the page that lists them
          </a>
        )
      }
      actions={
        <>
          <Undo />
          <button
            type="button"
            className="rounded-(--radius) bg-act px-4 py-2 text-base font-semibold text-on-act"
            onClick={() => go('/types/new')}
          >
            New meeting type
          </button>
        </>
      }
    >
      {(types.error ?? place.error) && <Need>{(types.error ?? place.error)?.message}</Need>}
      {many && (
        <div className="mb-3 max-w-96">
          <TextField
            label="Find by name or category"
            type="search"
            value={search}
            onChange={(event) => setSearch(event.target.value)}
          />
        </div>
      )}
      {types.data?.length === 0 && search !== '' && (
        <p className="border-y border-rule py-4 text-ink-2">No meeting type is called so.</p>
      )}
      {types.data?.length === 0 && search === '' && (
        <p className="border-y border-rule py-4 text-ink-2">
          You offer no meeting type yet. Make one, and its page can be booked at once.
        </p>
      )}
      <Sortable
        className="max-w-5xl"
        label="Meeting types"
        items={listed}
        keyOf={(type) => String(type.id)}
        nameOf={(type) => type.name}
        onOrder={(next) => {
          const ids = next.map((type) => type.id)
          setOrder(ids)
          place.mutate(ids)
        }}
      >
        {(type) => (
          <div className="grid items-baseline gap-x-5 border-t border-rule py-3 sm:grid-cols-[1fr_6rem_11rem_15rem]">
            <div>
              <button
                type="button"
                className="link text-[16.5px] font-semibold"
                onClick={() => go(`/types/${type.id}`)}
              >
                {type.name}
              </button>
              {type.listing !== 'listed' && (
                <span className="ml-2 text-note text-ink-2">
                  {type.listing === 'off' ? 'switched off' : 'by link only'}
                </span>
              )}
              <p className="line-clamp-1 text-note text-ink-2">
                {type.category && `${type.category}. `}
                {type.description}
              </p>
            </div>
            <span className="figures text-note text-ink-2">{lengths(type.rules)} min</span>
            <OpenStarts open={openOf(type.id)} date={today.data?.date ?? ''} />
            <More type={type} />
          </div>
        )}
      </Sortable>
    </View>
  )
}

/** The ways on from a type. */
function More({ type }: { type: Type }) {
  const go = useGo()
  const [removing, setRemoving] = useState(false)
  const params = { path: { id: type.id } }
  const duplicate = useTypesChange(() => need(api.POST('/types/{id}/duplicate', { params })))
  const remove = useTypesChange(() => need(api.DELETE('/types/{id}', { params })))
  const error = duplicate.error ?? remove.error
  const way = (words: string, name: string, onDo: () => void) => (
    <button type="button" className="link" aria-label={`${name} ${type.name}`} onClick={onDo}>
      {words}
    </button>
  )
  return (
    <div className="text-note">
      <p className="flex flex-wrap gap-x-4">
        {way('Booking page', 'Booking page of', () => go(`/types/${type.id}/offer`))}
        {way('Hosts', 'Hosts of', () => go(`/types/${type.id}/routing`))}
        <a href={type.path} target="_blank" rel="noreferrer">
          The client’s page
        </a>
        {type.edits && way('Copy', 'Copy', () => duplicate.mutate(undefined))}
        {type.edits && way('Remove', 'Remove', () => setRemoving(true))}
      </p>
      {error && <Need>{error.message}</Need>}
      <Ask
        open={removing}
        title={`Remove ${type.name}?`}
        yes="Remove"
        no="Keep"
        onYes={() => {
          setRemoving(false)
          remove.mutate(undefined)
        }}
        onNo={() => setRemoving(false)}
      >
        Its page can’t be booked any more. What was booked stays in the history, and you can undo this.
      </Ask>
    </div>
  )
}

/** A change after which the types are asked for anew. */
function useTypesChange<Input>(change: (input: Input) => Promise<unknown>) {
  const client = useQueryClient()
  return useMutation<unknown, Refusal, Input>({
    mutationFn: change,
    onSuccess: () => hasChanged(client, 'type'),
  })
}

function inOrder(types: Type[], order: number[] | null): Type[] {
  if (!order) return types
  return [...types].sort((a, b) => order.indexOf(a.id) - order.indexOf(b.id))
}

/** How many starts are open in the next 14 days; if none is, the rule that takes most, and the way to its reasons. */
function OpenStarts({ open, date }: { open: Schemas['OpenCount'] | undefined; date: string }) {
  const go = useGo()
  if (!open) return <span />
  if (!open.why)
    return (
      <span className="figures text-note text-ink-2" title="In the next 14 days">
        {open.count} open starts
      </span>
    )
  return (
    <span className="text-note text-need" title="In the next 14 days">
      Nothing open: mostly blocked by {open.why.toLowerCase()}.{' '}
      <button type="button" className="link" onClick={() => go(reasonsPath(open.id, date))}>
        Why?
      </button>
    </span>
  )
}

function lengths({ duration, others, upTo }: Schemas['TypeRules']): string {
  if (upTo) return `${duration} to ${upTo}`
  return [duration, ...(others ?? [])].join(', ')
}
