import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { type ReactNode, useState } from 'react'
import { useNavigate } from 'react-router'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { hasChanged, keys } from '../../api/keys'
import { Button, Need, SelectField, TextField } from '../../kit/kit'
import { useReadWeek, WeekRows } from '../hours/Week'
import { Invite } from '../people/Invite'
import { settingsOf, useHours, useMe, useStaff, useTypes, useWorkspace } from '../queries'
import { View } from '../Shell'
import { Consequence } from '../types/Consequence'
import { useDebounced } from '../useDebounced'
import { shortOf } from './Begin'

const names = ['When you work', 'Your first meeting type', 'Your colleagues', 'Your page']

/** Setting up, step by step; each shows what comes of it, and can be left and gone on with. */
export function Steps() {
  const setup = useMe().data?.setup ?? 0
  const [shown, setShown] = useState(Math.max(1, setup))
  const client = useQueryClient()
  const navigate = useNavigate()
  const goOn = useMutation<unknown, Refusal, number>({
    mutationFn: (step) => need(api.PUT('/begin/step', { body: { step } })),
    onSuccess: async (_, step) => {
      await hasChanged(client, 'me')
      if (step === 0) navigate('/')
      else setShown(step)
    },
  })
  const next = () => goOn.mutate(shown === names.length ? 0 : shown + 1)
  const step = [
    <WorkStep key="1" onDone={next} />,
    <TypeStep key="2" onDone={next} />,
    <PeopleStep key="3" onDone={next} />,
    <PageStep key="4" onDone={next} />,
  ][shown - 1]
  return (
    <View
      title="Setting up"
      note={`step ${shown} of ${names.length}`}
      actions={
        <button type="button" className="link" onClick={() => navigate('/')}>
          Continue later
        </button>
      }
    >
      <ol className="mb-6 flex flex-wrap gap-x-6 gap-y-1 border-b border-rule pb-3" aria-label="Steps">
        {names.map((name, i) => (
          <li key={name}>
            <button
              type="button"
              aria-current={shown === i + 1 ? 'step' : undefined}
              disabled={setup !== 0 && i + 1 > setup}
              className={shown === i + 1 ? 'font-semibold text-act' : 'text-ink-2 disabled:text-ink-3'}
              onClick={() => setShown(i + 1)}
            >
              {i + 1}. {name}
            </button>
          </li>
        ))}
      </ol>
      {goOn.error && <Need className="mb-4">{goOn.error.message}</Need>}
      {step}
    </View>
  )
}

/** What a step asks, and beside it what comes of it. */
function Step({ children, result }: { children: ReactNode; result?: ReactNode }) {
  return (
    <div className="grid gap-x-12 gap-y-6 xl:grid-cols-[minmax(0,1fr)_minmax(0,0.9fr)]">
      <div>{children}</div>
      <div>{result}</div>
    </div>
  )
}

function WorkStep({ onDone }: { onDone: () => void }) {
  const hours = useHours()
  if (hours.error) return <Need>{hours.error.message}</Need>
  return hours.data ? <Hours saved={hours.data} onDone={onDone} /> : null
}

function Hours({ saved, onDone }: { saved: Schemas['HoursView']; onDone: () => void }) {
  const [week, setWeek] = useState(saved.own.map((text) => ({ text })) as Schemas['DayInput'][])
  const read = useReadWeek(week)
  const client = useQueryClient()
  const save = useMutation<Schemas['HoursView'], Refusal, void>({
    mutationFn: () => need(api.PUT('/hours', { body: { plan: 0, week } })),
    onSuccess: (now) => {
      client.setQueryData(keys.hours, now)
      onDone()
    },
  })
  return (
    <div className="max-w-3xl">
      <p className="mb-3 text-ink-2">
        Type hours like <b className="font-semibold">9-12, 13-17</b>, or draw them on the ribbons. Exceptions, holidays
        and your calendars come later, under Hours and Calendars.
      </p>
      {read && <WeekRows week={week} read={read} changed={read.map(() => false)} onChange={setWeek} />}
      {save.error && <Need className="mt-3">{save.error.message}</Need>}
      <p className="mt-5">
        <Button onClick={() => save.mutate()} disabled={save.isPending}>
          These are my hours
        </Button>
      </p>
    </div>
  )
}

const ways = {
  video: 'by video, a fresh room for each',
  phone: 'by phone; we call the client',
  theirs: 'at the client’s address',
  later: 'agreed later',
} as const

function TypeStep({ onDone }: { onDone: () => void }) {
  const workspace = useWorkspace().data
  const types = useTypes(true).data
  const zone = useMe().data?.person?.zone ?? 'UTC'
  const [name, setName] = useState('First conversation')
  const [minutes, setMinutes] = useState(30)
  const [way, setWay] = useState<keyof typeof ways>('video')
  const draft = workspace && {
    name,
    slug: shortOf(name),
    description: '',
    rules: { ...workspace.rules, duration: minutes, follows: workspace.groups.map((group) => group.name) },
  }
  const still = useDebounced(draft)
  const preview = useQuery({
    queryKey: keys.tried.type(0, still),
    queryFn: () => still && need(api.POST('/types/preview', { params: { query: { saved: 0 } }, body: still })),
    enabled: still !== undefined,
    placeholderData: keepPreviousData,
  })
  const client = useQueryClient()
  const save = useMutation<unknown, Refusal, void>({
    mutationFn: async () => {
      if (!draft) return
      const made = await need(api.POST('/types', { params: { query: {} }, body: draft }))
      const params = { path: { id: made.id } }
      const { page: _page, wrong: _wrong, ...offer } = await need(api.GET('/types/{id}/offer', { params }))
      const met = way === 'phone' ? { id: way, kind: way, calls: 'host' as const } : { id: way, kind: way }
      await need(api.PUT('/types/{id}/offer', { params, body: { ...offer, ways: [met] } }))
    },
    onSuccess: async () => {
      await hasChanged(client, 'type')
      onDone()
    },
  })
  const wrong = save.error?.fields ?? {}
  if (types && types.length > 0)
    return (
      <Step>
        <p className="text-ink-2">You offer {types.map((type) => type.name).join(', ')}.</p>
        <p className="mt-4">
          <Button onClick={onDone}>Continue to colleagues</Button>
        </p>
      </Step>
    )
  return (
    <Step result={<Consequence preview={preview.data} saved={undefined} zone={zone} />}>
      <p className="mb-3 text-ink-2">What clients can book. At the right: when they could, as your hours stand.</p>
      <div className="grid gap-4">
        <TextField
          label="What it is called"
          value={name}
          problem={wrong.name ?? wrong.slug}
          onChange={(event) => setName(event.target.value)}
        />
        <TextField
          label="How long it lasts, in minutes"
          type="number"
          min={5}
          max={480}
          value={minutes}
          problem={wrong['rules.duration']}
          onChange={(event) => setMinutes(Math.max(1, Math.round(event.target.valueAsNumber) || 30))}
        />
        <SelectField
          label="How you meet"
          value={way}
          onChange={(event) => setWay(event.target.value as keyof typeof ways)}
        >
          {Object.entries(ways).map(([kind, words]) => (
            <option key={kind} value={kind}>
              {words}
            </option>
          ))}
        </SelectField>
        {save.error && Object.keys(wrong).length === 0 && <Need>{save.error.message}</Need>}
        <p>
          <Button onClick={() => save.mutate()} disabled={save.isPending || !draft}>
            Offer this
          </Button>
        </p>
      </div>
    </Step>
  )
}

function PeopleStep({ onDone }: { onDone: () => void }) {
  const staff = useStaff().data
  const [typed, setTyped] = useState('')
  return (
    <Step>
      <p className="text-ink-2">
        Whoever works with you gets a mail, chooses a password and has hours and calendars of their own. Alone is fine
        too.
      </p>
      <Invite invited={staff?.invited ?? []} onTyped={setTyped} />
      {typed && (
        <p role="status" className="mt-4 text-note text-ink-2">
          The invitation of {typed} is not sent yet. It waits here, and under People.
        </p>
      )}
      <p className="mt-5">
        <Button kind={typed ? 'plain' : 'strong'} onClick={onDone}>
          {staff?.invited.length ? 'Continue to your page' : 'Continue without colleagues'}
        </Button>
      </p>
    </Step>
  )
}

const bookers = {
  anyone: 'anyone who has the link',
  organisation: 'people of the workspace who are signed in',
  nobody: 'nobody; we enter bookings ourselves',
} as const

/** What exactly strangers can see from now on, and what not. */
function Visible({ types, path, who }: { types: Schemas['MeetingType'][]; path: string; who: keyof typeof bookers }) {
  const me = useMe().data?.person
  const workspace = useWorkspace().data
  return (
    <div className="mt-5 mb-4 max-w-xl">
      <h2>What becomes visible</h2>
      <ul className="my-1.5 list-disc pl-5">
        <li>
          the page {location.host}
          {path}, with the name “{workspace?.name}”
        </li>
        {types.map((type) => (
          <li key={type.id}>
            “{type.name}”, {type.rules.duration} minutes, at {location.host}
            {type.path}, with your name, {me?.name}, and the times at which you are open
            {who === 'nobody' && '; they can’t be booked there'}
          </li>
        ))}
      </ul>
      <p className="text-note text-ink-2">
        Nobody sees your mail address, your week, or anything of your calendars. Until you publish, nothing can be seen
        or booked; and you can take it back under Workspace.
      </p>
    </div>
  )
}

function PageStep({ onDone }: { onDone: () => void }) {
  const workspace = useWorkspace().data
  const me = useMe().data?.person
  const types = useTypes(true).data ?? []
  const [who, setWho] = useState<keyof typeof bookers>('anyone')
  const client = useQueryClient()
  const publish = useMutation<unknown, Refusal, void>({
    mutationFn: async () => {
      if (!workspace) return
      for (const type of types) {
        const params = { path: { id: type.id } }
        const { routing } = await need(api.GET('/types/{id}/routing', { params }))
        await need(api.PUT('/types/{id}/routing', { params, body: { routing, who, version: 0 } }))
      }
      const settings = settingsOf(workspace)
      await need(api.PUT('/workspace', { body: { ...settings, front: { ...settings.front, unpublished: false } } }))
    },
    onSuccess: () => client.invalidateQueries(),
  })
  const path = `/p/${me?.workspace}`
  if (workspace && !workspace.front.unpublished)
    return (
      <Step>
        <h2>Your page is live</h2>
        <p className="mt-2 mb-4 text-[17px]">
          <a href={path} target="_blank" rel="noreferrer">
            {location.origin}
            {path}
          </a>
        </p>
        <p className="mb-4 text-ink-2">
          Send that address to somebody. Next, connect your calendars, so that nobody is offered a time you are busy.
        </p>
        <Button onClick={onDone}>Done</Button>
      </Step>
    )
  return (
    <Step>
      <SelectField
        label="Who may book"
        value={who}
        onChange={(event) => setWho(event.target.value as keyof typeof bookers)}
      >
        {Object.entries(bookers).map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </SelectField>
      <Visible types={types} path={path} who={who} />
      {publish.error && <Need className="mb-3">{publish.error.message}</Need>}
      <Button onClick={() => publish.mutate()} disabled={publish.isPending}>
        Publish the page
      </Button>
    </Step>
  )
}
