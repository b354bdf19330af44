import { type ReactNode, useRef, useState } from 'react'
import { api, need, type Schemas } from '../../api/client'
import { useGo } from '../../edit/unsaved'
import { Button, inline, Need } from '../../kit/kit'
import { Sortable } from '../../kit/Sortable'
import { say } from '../../say'
import { wallClock } from '../../time/time'
import { inTurn, type TypeFilter, useMe, useTypeList, useWorkspace } from '../queries'
import { View } from '../Shell'
import { Undo } from '../Undo'
import { useDebounced } from '../useDebounced'
import { FortnightRuler } from './Fortnight'
import { columns, TypeRow, useTypesChange } from './TypeRow'

type Type = Schemas['MeetingType']

const nothingSought: TypeFilter = { search: '', category: '', host: 0, listing: '' }

/** The meeting types, as clients see them in their order, each with what of it is really open. */
export function Types() {
  const [filter, setFilter] = useState(nothingSought)
  const found = useTypeList({ ...filter, search: useDebounced(filter.search) })
  const me = useMe().data?.person
  const firstWeekday = useWorkspace().data?.firstWeekday ?? 1
  const go = useGo()
  const list = useRef<HTMLDivElement>(null)
  const place = useTypesChange(
    (order: number[]) => need(api.PUT('/types/order', { body: { order } })),
    inTurn('order of types'),
  )
  // While the new order is on its way it stands already.
  const [order, setOrder] = useState<number[] | null>(null)
  const zone = me?.zone ?? 'UTC'
  const types = inOrder(found.data?.types ?? [], place.isPending ? order : null)
  const known = found.data?.known ?? 0
  const error = found.error ?? place.error
  return (
    <View
      title={say.types.meetingTypes}
      note={known > 0 && <span className="facts">{say.types.whatClientsCanBook(known)}</span>}
      actions={
        <>
          <Undo />
          <a href={`/p/${me?.workspace}`} target="_blank" rel="noreferrer">
            {say.types.viewClient}
          </a>
          <Button onClick={() => go('/types/new')}>{say.types.newMeetingType}</Button>
        </>
      }
    >
      {error && <Need>{error.message}</Need>}
      {known > 0 && found.data && <Filter filter={filter} list={found.data} onChange={setFilter} />}
      <div ref={list} tabIndex={-1} className="max-w-7xl outline-none">
        {known === 0 && found.data && (
          <p className="border-y border-rule py-4 text-ink-2">
            {say.types.youOfferNoMeeting}{' '}
            <button type="button" className="link" onClick={() => go('/types/new')}>
              {say.types.makeFirstOne}
            </button>
          </p>
        )}
        {known > 0 && types.length === 0 && (
          <p className="border-y border-rule py-4 text-ink-2">
            {say.types.noMeetingTypeMatches}{' '}
            <button type="button" className="link" onClick={() => setFilter(nothingSought)}>
              {say.types.showAll}
            </button>
          </p>
        )}
        {types.length > 0 && (
          <div className={`hidden pl-5.5 ${columns}`}>
            <span className="col-span-2" />
            <FortnightRuler from={wallClock(new Date(), zone).date} firstWeekday={firstWeekday} />
          </div>
        )}
        {groups(types).map(([category, members]) => (
          <section key={category} aria-label={category || say.types.withoutCategory}>
            {category && <h2 className="mt-3 mb-1.5">{category}</h2>}
            <Sortable
              label={category || say.types.meetingTypes}
              items={members}
              keyOf={(type) => String(type.id)}
              nameOf={(type) => type.name}
              onOrder={(next) => {
                const ids = next.map((type) => type.id)
                setOrder(ids)
                place.mutate(ids)
              }}
            >
              {(type) => <TypeRow type={type} zone={zone} firstWeekday={firstWeekday} list={list} />}
            </Sortable>
          </section>
        ))}
        {found.data && types.length === mostShown && known > mostShown && (
          <p className="border-t border-rule py-3 text-note text-ink-2">
            {say.types.shownFindOthersWhat(mostShown, known)}
          </p>
        )}
      </div>
    </View>
  )
}

/** So many the server lists at once. */
const mostShown = 100

interface FilterProps {
  filter: TypeFilter
  list: Schemas['TypeList']
  onChange: (filter: TypeFilter) => void
}

/** Which of the types are shown, as a line of parts to change. */
function Filter({ filter, list, onChange }: FilterProps) {
  return (
    <div className="mb-3 flex flex-wrap items-end gap-x-6 gap-y-2 text-note text-ink-2">
      <input
        type="search"
        aria-label={say.types.findTypeHost}
        placeholder={say.types.findTypeHost}
        className="w-58 border-0 border-b border-ink-2 bg-sheet px-1.5 py-1 text-base text-ink placeholder:text-ink-3"
        value={filter.search}
        onChange={(event) => onChange({ ...filter, search: event.target.value })}
      />
      {list.categories.length > 0 && (
        <Part
          label={say.types.category}
          value={filter.category}
          onChange={(category) => onChange({ ...filter, category })}
        >
          <option value="">{say.types.all}</option>
          {list.categories.map((category) => (
            <option key={category}>{category}</option>
          ))}
        </Part>
      )}
      {list.hosts.length > 1 && (
        <Part
          label={say.types.hostedByLabel}
          value={String(filter.host)}
          onChange={(host) => onChange({ ...filter, host: Number(host) })}
        >
          <option value="0">{say.types.anybody}</option>
          {list.hosts.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </Part>
      )}
      <Part
        label={say.types.shown}
        value={filter.listing}
        onChange={(listing) => onChange({ ...filter, listing: listing as TypeFilter['listing'] })}
      >
        <option value="">{say.types.listedUnlisted}</option>
        <option value="listed">{say.types.listed}</option>
        <option value="link">{say.types.byLinkOnly}</option>
        <option value="off">{say.types.isSwitchedOff}</option>
      </Part>
    </div>
  )
}

function Part(props: { label: string; value: string; onChange: (value: string) => void; children: ReactNode }) {
  return (
    <label className="flex items-baseline gap-1.5">
      {props.label}
      <select
        className={`${inline} font-semibold`}
        value={props.value}
        onChange={(event) => props.onChange(event.target.value)}
      >
        {props.children}
      </select>
    </label>
  )
}

/** The types by their category, in the order in which clients meet these. */
function groups(types: Type[]): [category: string, types: Type[]][] {
  const found = new Map<string, Type[]>()
  for (const type of types) found.set(type.category, [...(found.get(type.category) ?? []), type])
  return [...found].sort(([a], [b]) => +(a !== '') - +(b !== ''))
}

/** The types in their own order, those of an order put into it among their own places. */
function inOrder(types: Type[], order: number[] | null): Type[] {
  if (!order) return types
  const moving = order.flatMap((id) => types.find((type) => type.id === id) ?? [])
  return types.map((type) => (order.includes(type.id) ? (moving.shift() ?? type) : type))
}
