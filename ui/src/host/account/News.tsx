import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import type { ReactNode } from 'react'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Need } from '../../kit/kit'
import { say } from '../../say'
import { ClockPart } from '../messages/ClockPart'

type News = Schemas['News']

const usualMorning = '07:30'

/** What one is told of about one's meetings, and whether one's day comes by mail each morning. Every choice is kept at once. */
export function News() {
  const client = useQueryClient()
  const view = useQuery({ queryKey: keys.news, queryFn: () => need(api.GET('/me/news')) }).data
  const choose = useMutation<Schemas['NewsView'], Refusal, News>({
    mutationFn: (body) => need(api.PUT('/me/news', { body })),
    onSuccess: (kept) => client.setQueryData(keys.news, kept),
  })
  if (!view) return null
  const { kinds, ...kept } = view
  const news = choose.isPending ? choose.variables : kept
  const change = (part: Partial<News>) => choose.mutate({ ...news, ...part })
  const tell = (kind: string, wanted: boolean) =>
    change({ untold: wanted ? news.untold.filter((other) => other !== kind) : [...news.untold, kind] })
  return (
    <section aria-labelledby="news-head">
      <h2 id="news-head">{say.account.news}</h2>
      <p className="mt-1 mb-2 text-note text-ink-2">{say.account.newsNote}</p>
      <fieldset className="grid gap-1.5">
        <legend className="sr-only">{say.account.newsOf}</legend>
        {kinds.map((kind) => (
          <Tick key={kind} checked={!news.untold.includes(kind)} onChange={(wanted) => tell(kind, wanted)}>
            {say.messages.atOnce[kind]}
          </Tick>
        ))}
      </fieldset>
      <div className="mt-3 grid gap-1.5 border-rule border-t pt-3">
        <Tick checked={!news.notOwn} onChange={(wanted) => change({ notOwn: !wanted })}>
          {say.account.newsOwn}
        </Tick>
        <Tick checked={news.morning !== ''} onChange={(wanted) => change({ morning: wanted ? usualMorning : '' })}>
          {say.account.newsMorning}
        </Tick>
        {news.morning !== '' && (
          <p className="pl-6">
            {say.account.newsMorningAt(
              <ClockPart
                label={say.account.newsMorningClock}
                value={news.morning}
                changed={false}
                onChange={(morning) => change({ morning })}
              />,
            )}
          </p>
        )}
      </div>
      {choose.error && <Need>{choose.error.fields.morning ?? choose.error.message}</Need>}
    </section>
  )
}

interface TickProps {
  checked: boolean
  onChange: (checked: boolean) => void
  children: ReactNode
}

function Tick({ checked, onChange, children }: TickProps) {
  return (
    <label className="flex items-baseline gap-2">
      <input
        type="checkbox"
        className="accent-act"
        checked={checked}
        onChange={(event) => onChange(event.target.checked)}
      />
      {children}
    </label>
  )
}
