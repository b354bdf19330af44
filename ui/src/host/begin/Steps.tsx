import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { type ReactNode, useState } from 'react'
import { useNavigate } from 'react-router'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { hasChanged, keys } from '../../api/keys'
import { Button, Need, SelectField, TextField } from '../../kit/kit'
import { say } from '../../say'
import { useReadWeek, WeekRows } from '../hours/Week'
import { Invite } from '../people/Invite'
import { settingsOf, useHours, useMe, useStaff, useTypes, useWorkspace } from '../queries'
import { View } from '../Shell'
import { Consequence } from '../types/Consequence'
import { useDebounced } from '../useDebounced'
import { shortOf } from './Begin'

const names = [say.begin.whenYouWork, say.begin.yourFirstMeetingType, say.begin.yourColleagues, say.begin.yourPage]

/** Setting up, step by step; each shows what comes of it, and can be left and gone on with. */
export function Steps() {
  const setup = useMe().data?.setup ?? 0
  const [shown, setShown] = useState(Math.max(1, setup))
  const client = useQueryClient()
  const navigate = useNavigate()
  const goOn = useMutation<unknown, Refusal, number>({
    mutationFn: (step) => need(api.PUT('/begin/step', { body: { step } })),
    onSuccess: () => hasChanged(client, 'me'),
  })
  const next = () =>
    goOn.mutate(shown === names.length ? 0 : shown + 1, {
      // Not if one has gone elsewhere meanwhile.
      onSuccess: (_, step) => (step === 0 ? navigate('/') : setShown(step)),
    })
  const step = [
    <WorkStep key="1" onDone={next} />,
    <TypeStep key="2" onDone={next} />,
    <PeopleStep key="3" onDone={next} />,
    <PageStep key="4" onDone={next} />,
  ][shown - 1]
  return (
    <View
      title={say.begin.settingUp}
      note={say.begin.stepOf(shown, names.length)}
      actions={
        <button type="button" className="link" onClick={() => navigate('/')}>
          {say.begin.continueLater}
        </button>
      }
    >
      <ol className="mb-6 flex flex-wrap gap-x-6 gap-y-1 border-b border-rule pb-3" aria-label={say.begin.steps}>
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
      <p className="mb-3 text-ink-2">{say.begin.typeHoursLikeDraw(<b className="font-semibold">9-12, 13-17</b>)}</p>
      {read && <WeekRows week={week} read={read} changed={read.map(() => false)} onChange={setWeek} />}
      {save.error && <Need className="mt-3">{save.error.message}</Need>}
      <p className="mt-5">
        <Button onClick={() => save.mutate()} disabled={save.isPending}>
          {say.begin.theseMyHours}
        </Button>
      </p>
    </div>
  )
}

const ways = {
  video: say.begin.videoFreshRoomEach,
  phone: say.begin.phoneWeCallClient,
  theirs: say.begin.clientsAddress,
  later: say.begin.agreedLater,
} as const

function TypeStep({ onDone }: { onDone: () => void }) {
  const workspace = useWorkspace().data
  const types = useTypes(true).data
  const zone = useMe().data?.person?.zone ?? 'UTC'
  const [name, setName] = useState(say.begin.firstConversation)
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
      const { page: _page, wrong: _wrong, ...offer } = await need(api.GET('/types/{id}/booking-page', { params }))
      const met = way === 'phone' ? { id: way, kind: way, calls: 'host' as const } : { id: way, kind: way }
      await need(api.PUT('/types/{id}/booking-page', { params, body: { ...offer, ways: [met] } }))
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
        <p className="text-ink-2">{say.begin.youOffer(types.map((type) => type.name).join(', '))}</p>
        <p className="mt-4">
          <Button onClick={onDone}>{say.begin.continueColleagues}</Button>
        </p>
      </Step>
    )
  return (
    <Step result={<Consequence preview={preview.data} saved={undefined} zone={zone} />}>
      <p className="mb-3 text-ink-2">{say.begin.whatClientsCanBook}</p>
      <div className="grid gap-4">
        <TextField
          label={say.begin.whatCalled}
          value={name}
          problem={wrong.name ?? wrong.slug}
          onChange={(event) => setName(event.target.value)}
        />
        <TextField
          label={say.begin.howLongLastsMinutes}
          type="number"
          min={5}
          max={480}
          value={minutes}
          problem={wrong['rules.duration']}
          onChange={(event) => setMinutes(Math.max(1, Math.round(event.target.valueAsNumber) || 30))}
        />
        <SelectField
          label={say.begin.howYouMeet}
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
            {say.begin.offer}
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
      <p className="text-ink-2">{say.begin.whoeverWorksYouGets}</p>
      <Invite invited={staff?.invited ?? []} onTyped={setTyped} />
      {typed && (
        <p role="status" className="mt-4 text-note text-ink-2">
          {say.begin.invitationNotSentYet(typed)}
        </p>
      )}
      <p className="mt-5">
        <Button kind={typed ? 'plain' : 'strong'} onClick={onDone}>
          {staff?.invited.length ? say.begin.continueYourPage : say.begin.continueWithoutColleagues}
        </Button>
      </p>
    </Step>
  )
}

const bookers = {
  anyone: say.begin.anyoneWhoHasLink,
  organisation: say.begin.peopleWorkspaceWhoSigned,
  nobody: say.begin.nobodyWeEnterBookings,
} as const

/** What exactly strangers can see from now on, and what not. */
function Visible({ types, path, who }: { types: Schemas['MeetingType'][]; path: string; who: keyof typeof bookers }) {
  const me = useMe().data?.person
  const workspace = useWorkspace().data
  return (
    <div className="mt-5 mb-4 max-w-xl">
      <h2>{say.begin.whatBecomesVisible}</h2>
      <ul className="my-1.5 list-disc pl-5">
        <li>
          {say.begin.pageAt(location.host)}
          {say.begin.withName(path, workspace?.name)}
        </li>
        {types.map((type) => (
          <li key={type.id}>
            {say.begin.typeAt(type.name, type.rules.duration, location.host)}
            {say.begin.yourNameTimesWhich(type.path, me?.name)}
            {who === 'nobody' && say.begin.theyCantBookedThere}
          </li>
        ))}
      </ul>
      <p className="text-note text-ink-2">{say.begin.nobodySeesYourMail}</p>
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
        <h2>{say.begin.yourPageLive}</h2>
        <p className="mt-2 mb-4 text-[17px]">
          <a href={path} target="_blank" rel="noreferrer">
            {location.origin}
            {path}
          </a>
        </p>
        <p className="mb-4 text-ink-2">{say.begin.sendAddressSomebodyNext}</p>
        <Button onClick={onDone}>{say.begin.done}</Button>
      </Step>
    )
  return (
    <Step>
      <SelectField
        label={say.begin.whoMayBook}
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
        {say.begin.publishPage}
      </Button>
    </Step>
  )
}
