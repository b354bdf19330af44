import { QueryClient, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, need, type Refusal, type Schemas } from '../api/client'
import { gathered } from '../api/gather'
import { hasChanged, keys } from '../api/keys'
import { speakTheirs } from '../say'

/** What the host's application asks of the server, by name. Refusals are Refusal values. */

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: { retry: (count, error) => count < 2 && (error as Refusal).status === 0, staleTime: 5_000 },
  },
})

export function useMe() {
  return useQuery({ queryKey: keys.me, queryFn: () => need(api.GET('/me')) })
}

export function useSignIn() {
  const client = useQueryClient()
  return useMutation<Schemas['Me'], Refusal, { mail: string; password: string } | { person: number }>({
    mutationFn: (who) =>
      'person' in who ? need(api.POST('/demo-session', { body: who })) : need(api.POST('/session', { body: who })),
    onSuccess: (me) => {
      if (me.person) speakTheirs(me.person.language)
      return looksNow(client, me)
    },
  })
}

export function useSignOut() {
  const client = useQueryClient()
  return useMutation({
    mutationFn: () => need(api.DELETE('/session')),
    onSuccess: (me) => looksNow(client, me),
  })
}

/** From here on somebody else looks: what was read for whoever looked before is forgotten, also what is still on its way. */
export async function looksNow(client: QueryClient, me: Schemas['Me']): Promise<void> {
  await client.cancelQueries()
  client.removeQueries({ predicate: ({ queryKey }) => queryKey[0] !== keys.me[0] })
  client.setQueryData(keys.me, me)
}

export function useToday() {
  return useQuery({
    queryKey: keys.today,
    queryFn: () => need(api.GET('/today')),
    refetchInterval: ({ state }) => (state.data?.gathering ? 1_500 : 30_000),
  })
}

export function useHours() {
  return useQuery({ queryKey: keys.hours, queryFn: () => need(api.GET('/hours')), refetchOnWindowFocus: false })
}

export function useCalendars() {
  return useQuery({
    queryKey: keys.calendars,
    queryFn: () => need(api.GET('/calendars')),
    refetchInterval: ({ state }) => (state.data?.some((c) => c.reading && !c.readAt) ? 700 : 15_000),
  })
}

/** Which types are wanted; what is empty leaves none out. */
export type TypeFilter = {
  search: string
  category: string
  host: number
  listing: '' | Schemas['MeetingType']['listing']
}

/** The types that the person hosts or has made; with all, a coordinator's are all of the workspace. */
export function useTypes(all = false) {
  return useQuery({
    queryKey: keys.types(all),
    queryFn: async () => (await need(api.GET('/types', { params: { query: { all } } }))).types,
    placeholderData: (before) => before,
    refetchOnWindowFocus: false,
  })
}

/** All that the person may see, as a filter leaves them, and what else can be filtered by. */
export function useTypeList(filter: TypeFilter) {
  return useQuery<Schemas['TypeList'], Refusal>({
    queryKey: keys.typeList(filter),
    queryFn: () => need(api.GET('/types', { params: { query: { all: true, ...filter } } })),
    placeholderData: (before) => before,
    refetchOnWindowFocus: false,
  })
}

/** One of them. */
export function useType(id: number) {
  return useQuery<Schemas['MeetingType'], Refusal>({
    queryKey: keys.type(id),
    queryFn: () => need(api.GET('/types/{id}', { params: { path: { id } } })),
    enabled: id > 0,
    refetchOnWindowFocus: false,
  })
}

const askFacts = gathered(10, (id) => need(api.GET('/types/facts', { params: { query: { id } } })))

/** Who hosts a type, and how much of it is really open. */
export function useTypeFacts(id: number) {
  return useQuery<Schemas['TypeFacts'] | null, Refusal>({
    queryKey: keys.typeFacts(id),
    queryFn: () => askFacts(id),
    enabled: id > 0,
  })
}

export function useWeekPlans() {
  return useQuery({
    queryKey: keys.weekPlans,
    queryFn: () => need(api.GET('/week-plans')),
    refetchOnWindowFocus: false,
  })
}

/** The part of a workspace that is edited and saved. */
export function settingsOf(view: Schemas['WorkspaceView']): Schemas['Workspace'] {
  const { groups: _groups, holidayCalendars: _calendars, changes: _changes, ...settings } = view
  return settings
}

export function useWorkspace() {
  return useQuery({ queryKey: keys.workspace, queryFn: () => need(api.GET('/workspace')), refetchOnWindowFocus: false })
}

export function useCalendarSettings() {
  return useQuery({ queryKey: keys.calendarSettings, queryFn: () => need(api.GET('/calendars/settings')) })
}

/** Changes that are kept at once, each as a whole, wait for those before them: else the one that arrives last would stand. */
export const inTurn = (what: string) => ({ scope: { id: what } })

/** A change whose answer is the new list of calendars. */
export function useCalendarChange<Input>(
  change: (input: Input) => Promise<Schemas['Calendar'][]>,
  scope?: ReturnType<typeof inTurn>,
) {
  const client = useQueryClient()
  return useMutation<Schemas['Calendar'][], Refusal, Input>({
    ...scope,
    mutationFn: change,
    onSuccess: (calendars) => {
      client.setQueryData(keys.calendars, calendars)
      void hasChanged(client, 'calendar')
    },
  })
}

export function useStaff() {
  return useQuery({ queryKey: keys.staff, queryFn: () => need(api.GET('/staff')) })
}

/** A change whose answer is the new staff. */
export function useStaffChange<Input>(change: (input: Input) => Promise<Schemas['Staff']>) {
  const client = useQueryClient()
  return useMutation<Schemas['Staff'], Refusal, Input>({
    mutationFn: change,
    onSuccess: (staff) => {
      client.setQueryData(keys.staff, staff)
      void hasChanged(client, 'staff')
    },
  })
}

/** Puts the hours that the server answered with everywhere they are shown. */
export function useKeepHours() {
  const client = useQueryClient()
  return (hours: Schemas['HoursView']) => {
    client.setQueryData(keys.hours, hours)
    void hasChanged(client, 'hours')
  }
}

/** A change whose answer is the hours as they now are. */
export function useHoursChange<Input>(change: (input: Input) => Promise<Schemas['HoursView']>) {
  const keep = useKeepHours()
  return useMutation<Schemas['HoursView'], Refusal, Input>({ mutationFn: change, onSuccess: keep })
}
