import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { hasChanged, keys } from '../../api/keys'
import { Sheet } from '../../kit/Ask'
import { DateField } from '../../kit/DateField'
import { Button, inline, Need, SelectField, TextArea, TextField, whole } from '../../kit/kit'
import { say } from '../../say'
import { addDays, clock, shortDate, wallClock } from '../../time/time'
import { type Picked, PickTimes } from '../PickTimes'
import { useMe, useStaff, useTypes } from '../queries'
import { Way } from '../today/settle'

type Offer = Schemas['OneOff']
type OwnRules = Schemas['OneOffRules']

const stateWords: Record<Offer['state'], string> = {
  open: say.clients.waitsAnswer,
  taken: say.clients.taken,
  withdrawn: say.clients.withdrawn,
  expired: say.clients.expired,
}

/** One-off offers: what was offered to whom, whether it was looked at, and what became of it. */
export function Offers() {
  const zone = useMe().data?.person?.zone ?? 'UTC'
  const client = useQueryClient()
  const offers = useQuery<Offer[], Refusal>({
    queryKey: keys.oneOffs,
    queryFn: () => need(api.GET('/one-offs')),
  })
  const withdraw = useMutation<Offer[], Refusal, number>({
    mutationFn: (id) => need(api.DELETE('/one-offs/{id}', { params: { path: { id } } })),
    onSuccess: (left) => client.setQueryData(keys.oneOffs, left),
  })
  const error = offers.error ?? withdraw.error
  return (
    <section aria-labelledby="offers-head">
      <h2 id="offers-head">{say.clients.oneOffOffers}</h2>
      {error && <Need>{error.message}</Need>}
      {offers.data?.length === 0 && <p className="mt-2 text-ink-2">{say.clients.timesPickedHandOne}</p>}
      <ul className="mt-2">
        {offers.data?.map((offer) => (
          <li key={offer.id} className="border-t border-rule py-2 text-note">
            <p>
              {say.clients.offerTo(
                <b className="font-semibold">{offer.name || offer.mail || say.clients.whoeverHasLink}</b>,
                offer.type,
              )}{' '}
              {offer.host}: {stateWords[offer.state]}
              {offer.state === 'open' && (
                <>
                  {', '}
                  {offer.opened ? say.clients.opened(moment(offer.opened, zone)) : say.clients.notOpenedYet}.{' '}
                  <Way words={say.clients.withdraw} onDo={() => withdraw.mutate(offer.id)} />
                </>
              )}
            </p>
            <p className="figures text-ink-2">
              {offer.starts.length > 0
                ? offer.starts.map((at) => moment(at, zone)).join(' · ')
                : say.clients.minutesAmongOpenTimes(offer.minutes, lastDay(offer.until, zone))}
            </p>
          </li>
        ))}
      </ul>
    </section>
  )
}

/** The day that ends at an instant. */
function lastDay(end: string, zone: string): string {
  return shortDate(wallClock(new Date(new Date(end).getTime() - 1), zone).date)
}

function moment(at: string, zone: string): string {
  const time = new Date(at)
  return `${shortDate(wallClock(time, zone).date)} ${clock(time, zone)}`
}

/** Times that were picked before, to be kept for one client. */
interface Before {
  type: number
  picked: Picked[]
}

interface MakeProps {
  words: string
  client: { name: string; mail: string }
  strong?: boolean
  before?: Before
}

/** Picking times for a client; afterwards the link stands there to be sent. */
export function MakeOffer({ words, client, strong, before }: MakeProps) {
  const [open, setOpen] = useState(false)
  const [made, setMade] = useState<Offer | null>(null)
  const close = () => {
    setOpen(false)
    setMade(null)
  }
  return (
    <>
      {strong ? (
        <Button onClick={() => setOpen(true)}>{words}</Button>
      ) : (
        <Way words={words} onDo={() => setOpen(true)} />
      )}
      <Sheet wide open={open} title={made ? say.clients.offerMade : say.clients.offerTimes} onClose={close}>
        {made ? <Made offer={made} /> : <Pick client={client} before={before} onMade={setMade} />}
      </Sheet>
    </>
  )
}

function Made({ offer }: { offer: Offer }) {
  const address = `${location.origin}${offer.path}`
  return (
    <>
      <p className="text-ink-2">{say.clients.whoeverHasLinkCan(offer.mail ?? '')}</p>
      <p className="mt-2">
        <a href={offer.path} target="_blank" rel="noreferrer" className="break-all">
          {address}
        </a>{' '}
        <Way words={say.clients.copy} onDo={() => void navigator.clipboard.writeText(address)} />
      </p>
    </>
  )
}

const most = 20

interface PickProps {
  client: MakeProps['client']
  before: Before | undefined
  onMade: (offer: Offer) => void
}

function Pick({ client, before, onMade }: PickProps) {
  const me = useMe().data?.person
  const looksAfter = me?.role === 'owner' || me?.role === 'coordinator'
  const types = (useTypes(true).data ?? [])
    .filter((type) => type.mine || (looksAfter && type.hosts.length > 0))
    .sort((a, b) => +b.mine - +a.mine)
  const today = wallClock(new Date(), me?.zone ?? 'UTC').date
  const [who, setWho] = useState({ name: client.name, mail: client.mail, word: '' })
  const [type, setType] = useState<number | null>(before?.type ?? null)
  const [until, setUntil] = useState(addDays(today, 14))
  const [picked, setPicked] = useState<Picked[]>(before?.picked ?? [])
  const [withWhom, setWithWhom] = useState<number | null>(null)
  const [rules, setRules] = useState<OwnRules | null>(null)
  const [keep, setKeep] = useState(before !== undefined)
  const queries = useQueryClient()
  const staff = useStaff().data?.people ?? []
  const chosen = types.find((t) => t.id === type) ?? types[0]
  const host = withWhom ?? (chosen?.mine ? me?.id : chosen?.hosts[0]) ?? 0
  const choose = (id: number) => {
    setType(id)
    setWithWhom(null)
    setPicked([])
    const other = types.find((t) => t.id === id)
    if (rules && other) setRules(rulesLike(other))
  }
  const make = useMutation<Offer, Refusal, void>({
    mutationFn: () =>
      need(
        api.POST('/one-offs', {
          body: {
            type: chosen?.id ?? 0,
            host,
            until,
            ...who,
            ...(rules ? { starts: [], rules } : { starts: picked, keep }),
          },
        }),
      ),
    onSuccess: (offer) => {
      void hasChanged(queries, 'oneOffs')
      onMade(offer)
    },
  })
  if (!chosen || !me) return <p className="text-ink-2">{say.clients.youHostNoMeeting}</p>
  const others = looksAfter ? chosen.hosts : []
  const wrong = make.error?.fields ?? {}
  const field = (name: keyof typeof who, label: string) => ({
    label,
    value: who[name],
    problem: wrong[name],
    onChange: (event: { target: { value: string } }) => setWho({ ...who, [name]: event.target.value }),
  })
  return (
    <div className="grid gap-3">
      <div className="grid grid-cols-2 gap-5">
        <SelectField
          label={say.clients.meetingType}
          value={chosen.id}
          onChange={(event) => choose(Number(event.target.value))}
        >
          {types.map((t) => (
            <option key={t.id} value={t.id}>
              {say.clients.minutes(t.name, t.rules.duration)}
            </option>
          ))}
        </SelectField>
        {others.length > 0 && (
          <SelectField
            label={say.clients.host}
            value={host}
            onChange={(event) => {
              setWithWhom(Number(event.target.value))
              setPicked([])
            }}
          >
            {others.map((id) => (
              <option key={id} value={id}>
                {id === me.id ? 'me' : staff.find((person) => person.id === id)?.name}
              </option>
            ))}
          </SelectField>
        )}
        <DateField label={say.clients.takenUntil} value={until} problem={wrong.until} onChange={setUntil} />
        <TextField placeholder={say.clients.optional} {...field('name', say.clients.client)} />
        <TextField type="email" placeholder={say.clients.optionalElseYouSend} {...field('mail', say.clients.mail)} />
      </div>
      <p>
        {say.clients.theyChooseAmong}{' '}
        <select
          aria-label={say.clients.whatTheyChooseAmong}
          className={inline}
          value={rules ? 'rules' : 'picked'}
          onChange={(event) => setRules(event.target.value === 'rules' ? rulesLike(chosen) : null)}
        >
          <option value="picked">{say.clients.timesYouPick}</option>
          <option value="rules">{say.clients.openTimesRulesTheir(host === me.id)}</option>
        </select>
        .
      </p>
      {rules ? (
        <RulesForm rules={rules} wrong={wrong} onChange={setRules} />
      ) : (
        <>
          <p className="text-note text-ink-2">{say.clients.pressWhereTheyCould}</p>
          <PickTimes
            from={addDays(today, 1)}
            minutes={chosen.rules.duration}
            person={host}
            open={new Map()}
            picked={picked}
            onPick={setPicked}
            most={most}
          />
          <label className="flex items-baseline gap-2">
            <input
              type="checkbox"
              className="accent-act"
              checked={keep}
              onChange={(event) => setKeep(event.target.checked)}
            />
            {say.clients.keepTheseTimesThem}
          </label>
        </>
      )}
      <TextArea rows={2} placeholder={say.clients.optional} {...field('word', say.clients.messageThem)} />
      {(wrong.starts || (make.error && Object.keys(wrong).length === 0)) && (
        <Need>{wrong.starts ?? make.error?.message}</Need>
      )}
      <p>
        <Button disabled={make.isPending || (!rules && picked.length === 0)} onClick={() => make.mutate()}>
          {offerWords(rules, picked)}
        </Button>
      </p>
    </div>
  )
}

function offerWords(rules: OwnRules | null, picked: Picked[]): string {
  if (rules) return say.clients.offerYourOpenTimes
  return say.clients.offerTheseTimes(picked.length)
}

/** What to begin with: the type's rules, without notice, since one knows this client. */
function rulesLike({ rules }: Schemas['MeetingType']): OwnRules {
  return { minutes: rules.duration, notice: 0, step: rules.step, limits: false }
}

interface RulesProps {
  rules: OwnRules
  wrong: Record<string, string>
  onChange: (rules: OwnRules) => void
}

const notices: [words: string, minutes: number][] = [
  [say.clients.lateTheyLike, 0],
  [say.clients.leastHourAhead, 60],
  [say.clients.least4HoursAhead, 240],
  [say.clients.leastDayAhead, 1440],
  [say.clients.least3DaysAhead, 4320],
  [say.clients.leastWeekAhead, 10_080],
]

/** The rules of an offer's own, as sentences. */
function RulesForm({ rules, wrong, onChange }: RulesProps) {
  const number = (field: 'minutes' | 'step', label: string) => (
    <input
      type="number"
      aria-label={label}
      aria-invalid={wrong[`rules.${field}`] ? true : undefined}
      className={`number w-16 ${inline}`}
      value={rules[field] || ''}
      onChange={(event) => onChange({ ...rules, [field]: whole(event.target.value) })}
    />
  )
  return (
    <div className="text-ink">
      <p>
        {say.clients.minutesStartEvery(number('minutes', say.clients.lengthMinutes))}{' '}
        {say.clients.minutesBooked(number('step', say.clients.startEveryManyMinutes))}{' '}
        <select
          aria-label={say.clients.howSoon}
          className={inline}
          value={rules.notice}
          onChange={(event) => onChange({ ...rules, notice: Number(event.target.value) })}
        >
          {notices.map(([words, minutes]) => (
            <option key={minutes} value={minutes}>
              {words}
            </option>
          ))}
        </select>
        .
      </p>
      {(wrong['rules.minutes'] ?? wrong['rules.step']) && (
        <Need className="mt-2">{wrong['rules.minutes'] ?? wrong['rules.step']}</Need>
      )}
      <label className="mt-2 flex items-baseline gap-2">
        <input
          type="checkbox"
          className="accent-act"
          checked={rules.limits}
          onChange={(event) => onChange({ ...rules, limits: event.target.checked })}
        />
        {say.clients.typesLimitsBookingsCount}
      </label>
      <p className="mt-1 text-note text-ink-2">{say.clients.yourHoursBuffersCalendars}</p>
    </div>
  )
}
