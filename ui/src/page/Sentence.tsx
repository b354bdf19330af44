import type { ReactNode } from 'react'
import type { Schemas } from '../api/client'
import { clock, longDate } from '../time/time'
import { Pieces, useTexts } from './texts'
import { whoIs } from './who'

interface Props {
  page: Schemas['Page']
  zone: string
  date: string | null
  start: Date | null
  minutes: number
  onMinutes: (minutes: number) => void
  /** The chosen host; 0 for anyone. */
  host: number
  onHost: (host: number) => void
  /** The ID of the chosen way of meeting. */
  way: string
  onWay: (way: string) => void
}

/** The choice so far as one sentence; each of its words is changed where it stands. */
export function Sentence(props: Props) {
  const { page } = props
  const t = useTexts()
  const said = {
    name: page.type,
    type: <b className="font-medium">{t.smallNames ? uncapital(page.type) : page.type}</b>,
    length: <Length {...props} />,
    host: <Host {...props} />,
    way: <WayOfMeeting {...props} />,
    when: props.date && <When {...props} date={props.date} />,
  }
  return (
    <h1 className="mb-5 max-w-4xl text-[22px] leading-[1.45] sm:text-[29px]">
      <Pieces of={t.sentence(said)} />
    </h1>
  )
}

/** The day, and the time once it is chosen; both lead to where they are chosen. */
function When({ page, zone, date, start }: Props & { date: string }) {
  const t = useTexts()
  const day = <Word to="day">{longDate(date)}</Word>
  if (!start) return <Pieces of={t.dayOnly(day, <Word to="day">{t.timeToChoose}</Word>)} />
  const time = (
    <a href="#day" className="rounded-(--radius) border-b-2 border-act bg-act-soft px-1.5 no-underline!">
      {clock(start, zone)}
    </a>
  )
  return <Pieces of={t.when(day, time, page.zones === 'client')} />
}

const word =
  'field-sizing-content max-w-full cursor-pointer rounded-(--radius) border-0 border-b-2 border-dotted border-act bg-ground font-medium'

/** A word of the sentence that is chosen from a list. */
function Choice(props: {
  label: string
  value: string | number
  onChange: (value: string) => void
  children: ReactNode
}) {
  return (
    <select
      aria-label={props.label}
      className={word}
      value={props.value}
      onChange={(event) => props.onChange(event.target.value)}
    >
      {props.children}
    </select>
  )
}

/** How long it is to last, to be chosen where there is a choice. */
function Length({ page, minutes, onMinutes }: Props) {
  const t = useTexts()
  if (page.lengths.length < 2) return <b className="font-medium">{t.minutes(minutes)}</b>
  return (
    <Choice label={t.lengthLabel} value={minutes} onChange={(value) => onMinutes(Number(value))}>
      {page.lengths.map((length) => (
        <option key={length} value={length}>
          {t.minutes(length)}
        </option>
      ))}
    </Choice>
  )
}

function Host({ page, host, onHost }: Props) {
  const t = useTexts()
  if (page.choice.length < 2) return <b className="font-medium">{whoIs(page, t)}</b>
  return (
    <Choice label={t.withWhom} value={host} onChange={(value) => onHost(Number(value))}>
      <option value={0}>{t.anyone}</option>
      {page.choice.map(({ id, name }) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
    </Choice>
  )
}

/** Where one meets. Two addresses of ours are told apart by their first line. */
function WayOfMeeting({ page, way, onWay }: Props) {
  const t = useTexts()
  const first = page.ways[0]
  if (page.ways.length < 2) return <b className="font-medium">{first && t.ways[first.kind]}</b>
  const twice = (kind: string) => page.ways.filter((w) => w.kind === kind).length > 1
  return (
    <Choice label={t.howToMeet} value={way} onChange={onWay}>
      {page.ways.map(({ id, kind, text }) => (
        <option key={id} value={id}>
          {t.ways[kind]}
          {twice(kind) && text ? ` (${text.split('\n')[0]})` : ''}
        </option>
      ))}
    </Choice>
  )
}

function Word({ to, children }: { to: string; children: string }) {
  return (
    <a href={`#${to}`} className="border-b-2 border-dotted border-act no-underline!">
      {children}
    </a>
  )
}

/** "loan condition call" within a sentence; abbreviations keep their capitals. */
function uncapital(name: string): string {
  return /^[A-Z][a-z]/.test(name) ? (name[0] ?? '').toLowerCase() + name.slice(1) : name
}
