import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { useSearchParams } from 'react-router'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { forgetOthers, keys } from '../../api/keys'
import { countFields } from '../../edit/changes'
import { Meanwhile } from '../../edit/Meanwhile'
import { SaveBar } from '../../edit/SaveBar'
import { useUnsaved } from '../../edit/unsaved'
import { useEditor } from '../../edit/useEditor'
import { Need } from '../../kit/kit'
import { say } from '../../say'
import { placeOf } from '../../time/time'
import { useHours, useKeepHours, useWeekPlans } from '../queries'
import { Unread, View } from '../Shell'
import { Undo } from '../Undo'
import { useDebounced } from '../useDebounced'
import { Differing } from './Differing'
import { Files } from './Files'
import { Next } from './Next'
import { KeepAsPlan, PlanChoice, Plans } from './Plans'
import { fullNames, type Week, WeekRows } from './Week'
import { Year } from './Year'

/** Hours as they are edited: by a plan or by a week of one's own. */
interface Edited {
  plan: number
  week: Week
}

/** One's own hours, or for a coordinator those of a colleague. What was known of the one never shows for the other. */
export function Hours() {
  const client = useQueryClient()
  const whose = useSearchParams()[0].get('for') ?? ''
  const [ready, setReady] = useState<string | null>(null)
  useEffect(() => {
    const forget = () => forgetOthers(client)
    if (whose) forget()
    setReady(whose)
    return () => {
      if (whose) forget()
    }
  }, [client, whose])
  if (ready !== whose) return <Unread />
  return <OwnHours key={whose} />
}

function OwnHours() {
  const hours = useHours()
  if (!hours.data) return <Unread error={hours.error} />
  return <HoursEditor saved={hours.data} />
}

const typed = (texts: string[]): Week => texts.map((text) => ({ text }))

const editedOf = ({ plan, week }: Schemas['HoursView']): Edited => ({ plan, week: typed(week.map((day) => day.text)) })

/** The week by typing or by drawing, and what differs from it. Reading and writing hours is the server's. */
function HoursEditor({ saved }: { saved: Schemas['HoursView'] }) {
  const editor = useEditor(editedOf(saved))
  const edited = editor.draft
  const plans = useWeekPlans().data ?? []
  const view = usePreview(edited, saved)
  const save = useSave((now) => editor.keep(editedOf(now)))
  const { plan, week } = edited
  // What a day is compared with: the plan chosen now, else the week as it is saved.
  const before =
    plans.find((p) => p.id === plan)?.week ?? (plan === saved.plan ? saved.week.map((d) => d.text) : saved.own)
  // What was not touched doesn't differ, though what it reads as may not have come yet.
  const touched = (i: number) => plan !== saved.plan || countFields(week[i] ?? {}, editor.saved.week[i] ?? {}) > 0
  const differs = view.week.map((day, i) => touched(i) && day.text !== before[i])
  const changes = differs.filter(Boolean).length + (plan === saved.plan ? 0 : 1)
  useUnsaved(changes > 0, () => save.mutateAsync(edited))

  return (
    <View
      title={saved.whose ? say.hours.weekOf(saved.whose) : say.hours.yourWeek}
      note={say.hours.time(placeOf(saved.zone))}
      actions={<Undo unsaved={changes > 0} />}
      bar={
        <SaveBar
          changes={changes}
          save={save}
          what={[...fullNames.filter((_, i) => differs[i]), ...(plan === saved.plan ? [] : [say.hours.theWeekPlan])]}
          effect={inAll(view.effects)}
          discard={editor.discard}
          onSave={() => save.mutate(edited)}
        />
      }
      aside={<Next view={view} />}
      asideWidth="27rem"
    >
      <Meanwhile
        conflicts={editor.conflicts}
        name={(field) => (field === 'plan' ? say.hours.theWeekPlan : say.hours.yourWeek)}
        onTheirs={editor.discard}
      />
      {save.error && <Need className="mb-4">{save.error.message}</Need>}
      <div className="max-w-3xl">
        {saved.whose && (
          <p className="mb-3 border-l-3 border-need pl-3 text-note">
            {say.hours.youChangingHours(saved.whose)}{' '}
            <a className="underline" href="/hours">
              {say.hours.backYourOwn}
            </a>
          </p>
        )}
        {saved.openTitle && (
          <p className="mb-3 border-l-3 border-act pl-3 text-note">{say.hours.yourHoursComeFrom(saved.openTitle)}</p>
        )}
        <div className="mb-1 flex flex-wrap items-baseline justify-between gap-x-5 gap-y-1">
          <PlanChoice
            plans={plans}
            plan={plan}
            onChoose={(id) => editor.set({ plan: id, week: typed(plans.find((p) => p.id === id)?.week ?? saved.own) })}
          />
          {plan === 0 && <KeepAsPlan week={week} />}
        </div>
        <WeekRows week={week} read={view.week} changed={differs} onChange={(next) => editor.set({ week: next })} />
        <p className="mt-5 max-w-2xl text-note text-ink-2">
          {say.hours.typeHoursLike(<b className="font-semibold">9-12, 13-17</b>)}{' '}
          {say.hours.pastMidnightDrawThem(
            <b className="font-semibold">{say.hours.exampleHours}</b>,
            <b className="font-semibold">22-2</b>,
          )}
        </p>
        <Differing changes={saved.differs} whose={saved.whose} />
        <Year saved={saved} locked={changes > 0} />
        <Files />
        <Plans plans={plans} />
      </div>
    </View>
  )
}

/** What the change does to all types together, in a line. */
function inAll(effects: Schemas['Effect'][]): string | null {
  const sum = (of: 'gained' | 'lost') => effects.reduce((total, effect) => total + effect[of], 0)
  const said = [
    sum('gained') > 0 && say.hours.more(sum('gained')),
    sum('lost') > 0 && say.hours.fewer(sum('lost')),
  ].filter(Boolean)
  return said.length > 0 ? say.hours.openStartsWeeks(effects[0]?.weeks ?? 0, said.join(', ')) : null
}

/** What the week as it stands reads as. While the server is asked, the last answer stays. */
function usePreview(edited: Edited, saved: Schemas['HoursView']): Schemas['HoursView'] {
  const still = useDebounced(edited, 120)
  const asked = useQuery({
    queryKey: keys.tried.hours(still),
    queryFn: () => need(api.POST('/hours/preview', { body: still })),
    placeholderData: keepPreviousData,
    refetchOnWindowFocus: false,
  })
  return asked.data ?? saved
}

function useSave(onSaved: (hours: Schemas['HoursView']) => void) {
  const keep = useKeepHours()
  return useMutation<Schemas['HoursView'], Refusal, Edited>({
    mutationFn: (body) => need(api.PUT('/hours', { body })),
    onSuccess: (hours) => {
      onSaved(hours)
      keep(hours)
    },
  })
}
