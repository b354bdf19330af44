import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { type ReactNode, useState } from 'react'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Need } from '../../kit/kit'
import { say } from '../../say'
import { ClockPart } from '../messages/ClockPart'
import { inTurn } from '../queries'
import { OwnPhone } from './OwnPhone'

type News = Schemas['News']

const usualMorning = '07:30'

/** What one is told of about one's meetings, and whether one's day comes by mail each morning. Every choice is kept at once. */
export function News() {
  const client = useQueryClient()
  const view = useQuery({ queryKey: keys.news, queryFn: () => need(api.GET('/me/news')) }).data
  /** What was chosen and isn't kept yet: shown at once, so that a press never seems to be taken back. */
  const [asked, setAsked] = useState<News | null>(null)
  const choose = useMutation<Schemas['NewsView'], Refusal, News>({
    ...inTurn('news'),
    mutationFn: (body) => need(api.PUT('/me/news', { body })),
    onSuccess: (kept) => client.setQueryData(keys.news, kept),
    onSettled: (_kept, _refusal, body) => setAsked((latest) => (latest === body ? null : latest)),
  })
  if (!view) return null
  const { kinds, phone, stopped, byText, ...kept } = view
  const news = asked ?? kept
  const change = (part: Partial<News>) => {
    const next = { ...news, ...part }
    setAsked(next)
    choose.mutate(next)
  }
  const tell = (kind: string, wanted: boolean) => change({ untold: only(news.untold, kind, !wanted) })
  const text = (kind: string, wanted: boolean) => change({ texted: only(news.texted, kind, wanted) })
  const texts = phone !== '' && !stopped
  return (
    <section aria-labelledby="news-head">
      <h2 id="news-head">{say.account.news}</h2>
      <p className="mt-1 mb-2 text-note text-ink-2">{say.account.newsNote}</p>
      <table className="w-full">
        <caption className="sr-only">{say.account.newsOf}</caption>
        <thead className="text-note text-ink-2">
          <tr>
            <td />
            <th scope="col" className="px-3 pb-1 text-right font-normal">
              {say.account.newsByMail}
            </th>
            {byText && (
              <th scope="col" className="pb-1 pl-3 text-right font-normal">
                {say.account.newsByText}
              </th>
            )}
          </tr>
        </thead>
        <tbody>
          {kinds.map((kind) => (
            <tr key={kind} className="border-rule border-t">
              <th scope="row" className="py-1 text-left font-normal">
                {say.messages.atOnce[kind]}
              </th>
              <Chosen
                label={`${say.messages.atOnce[kind]}: ${say.account.newsByMail}`}
                checked={!news.untold.includes(kind)}
                onChange={(wanted) => tell(kind, wanted)}
              />
              {byText && (
                <Chosen
                  label={`${say.messages.atOnce[kind]}: ${say.account.newsByText}`}
                  checked={texts && news.texted.includes(kind)}
                  disabled={!texts}
                  onChange={(wanted) => text(kind, wanted)}
                />
              )}
            </tr>
          ))}
        </tbody>
      </table>
      {byText && <OwnPhone phone={phone} stopped={stopped} onProved={(view) => client.setQueryData(keys.news, view)} />}
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

/** A list with something in it, or without. */
function only(list: string[], one: string, there: boolean): string[] {
  const others = list.filter((other) => other !== one)
  return there ? [...others, one] : others
}

interface ChosenProps {
  label: string
  checked: boolean
  disabled?: boolean
  onChange: (checked: boolean) => void
}

function Chosen({ label, checked, disabled, onChange }: ChosenProps) {
  return (
    <td className="px-3 text-right last:pr-0">
      <input
        type="checkbox"
        aria-label={label}
        className="accent-act"
        checked={checked}
        disabled={disabled}
        onChange={(event) => onChange(event.target.checked)}
      />
    </td>
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
