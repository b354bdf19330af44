import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { Dialog } from 'radix-ui'
import { type KeyboardEvent, useEffect, useId, useState } from 'react'
import { api, need } from '../../api/client'
import { keys } from '../../api/keys'
import { useGo } from '../../edit/unsaved'
import { say } from '../../say'
import { wallClock } from '../../time/time'
import { useWorkspace } from '../queries'
import { useDebounced } from '../useDebounced'
import { isTyping } from '../useKey'
import { dayPlaces, ownPlaces, type Place, servedPlaces } from './places'

/** The keys that open the search: / outside of fields, Ctrl-K anywhere. */
export function useFindKeys(onFind: () => void) {
  useEffect(() => {
    const press = (event: globalThis.KeyboardEvent) => {
      const anywhere = (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k'
      const plain = event.key === '/' && !event.ctrlKey && !event.metaKey && !event.altKey && !isTyping(event.target)
      if (!anywhere && !plain) return
      event.preventDefault()
      onFind()
    }
    addEventListener('keydown', press)
    return () => removeEventListener('keydown', press)
  }, [onFind])
}

/** Finds a client, booking, meeting type, colleague, day, setting or action by a few letters, and goes there. */
export function Find({ zone, onClose }: { zone: string; onClose: () => void }) {
  const [search, setSearch] = useState('')
  const [at, setAt] = useState(0)
  const go = useGo()
  const id = useId()
  const { places, waiting } = usePlaces(search, zone)
  const chosen = Math.min(at, places.length - 1)
  const open = (place: Place | undefined) => {
    if (!place) return
    onClose()
    go(place.path)
  }
  const press = (event: KeyboardEvent) => {
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key]
    if (by && places.length > 0) {
      event.preventDefault()
      setAt((chosen + by + places.length) % places.length)
    }
    if (event.key === 'Enter') open(places[chosen])
  }
  useEffect(() => {
    document.getElementById(`${id}-${chosen}`)?.scrollIntoView({ block: 'nearest' })
  }, [id, chosen])
  return (
    <Dialog.Root open onOpenChange={(shown) => !shown && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-ground/80" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-[8vh] left-1/2 flex max-h-[80vh] w-[min(38rem,94vw)] -translate-x-1/2 flex-col border-t-3 border-act bg-sheet text-ink outline outline-rule-strong"
        >
          <Dialog.Title className="sr-only">{say.find.findAnything}</Dialog.Title>
          <input
            role="combobox"
            aria-label={say.find.findAnything}
            aria-expanded={places.length > 0}
            aria-controls={`${id}-list`}
            aria-activedescendant={places.length > 0 ? `${id}-${chosen}` : undefined}
            aria-autocomplete="list"
            autoComplete="off"
            spellCheck={false}
            placeholder={say.find.clientBookingMeetingType}
            className="w-full border-0 border-b border-rule-strong bg-transparent px-5 py-3.5 text-[17px] text-ink outline-none placeholder:text-ink-3"
            value={search}
            onChange={(event) => {
              setSearch(event.target.value)
              setAt(0)
            }}
            onKeyDown={press}
          />
          <List id={id} places={places} chosen={chosen} onOpen={open} />
          <p role="status" className="px-5 py-2.5 text-note text-ink-2">
            {search.trim() === '' && say.find.typeFirstLettersWords}
            {search.trim() !== '' && places.length === 0 && (waiting ? say.find.looking : say.find.nothingYouMaySee)}
          </p>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}

interface ListProps {
  id: string
  places: Place[]
  chosen: number
  onOpen: (place: Place) => void
}

/** What was found, under its heads. */
function List({ id, places, chosen, onOpen }: ListProps) {
  return (
    <div role="listbox" id={`${id}-list`} aria-label={say.find.whatWasFound} className="overflow-y-auto">
      {places.map((place, i) => (
        <div key={`${place.kind} ${place.path} ${place.name}`}>
          {place.kind !== places[i - 1]?.kind && (
            <p aria-hidden="true" className="px-5 pt-2.5 text-small text-ink-2">
              {place.kind}
            </p>
          )}
          {/* biome-ignore lint/a11y/useKeyWithClickEvents: keys go to the field above */}
          {/* biome-ignore lint/a11y/useFocusableInteractive: see above */}
          <div
            role="option"
            id={`${id}-${i}`}
            aria-selected={i === chosen}
            aria-label={`${place.name}${place.note ? `, ${place.note}` : ''}; ${place.kind}`}
            className="cursor-pointer px-5 py-1 hover:bg-act-soft aria-selected:bg-act-soft aria-selected:text-act"
            onClick={() => onOpen(place)}
          >
            {place.name} {place.note && <span className="text-note text-ink-2">{place.note}</span>}
          </div>
        </div>
      ))}
    </div>
  )
}

/** What the words lead to: the day at once, then what the server finds, then what is in the application itself. */
function usePlaces(search: string, zone: string): { places: Place[]; waiting: boolean } {
  const firstWeekday = useWorkspace().data?.firstWeekday ?? 1
  const still = useDebounced(search.trim(), 80)
  const found = useQuery({
    queryKey: keys.found(still),
    queryFn: () => need(api.GET('/find', { params: { query: { search: still } } })),
    enabled: still !== '',
    placeholderData: keepPreviousData,
    staleTime: 0,
  })
  if (search.trim() === '') return { places: [], waiting: false }
  const places = [
    ...dayPlaces(search, wallClock(new Date(), zone).date, firstWeekday),
    ...servedPlaces(still === '' ? [] : (found.data ?? [])),
    ...ownPlaces(search),
  ]
  return { places, waiting: found.isFetching || still !== search.trim() }
}
