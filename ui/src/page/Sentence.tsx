import type { Schemas } from '../api/client'
import { clock, longDate } from '../time/time'

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
}

/** The choice so far as one sentence; its words lead to where they are chosen. */
export function Sentence({ page, zone, date, start, minutes, onMinutes, host, onHost }: Props) {
  return (
    <h1 className="mb-5 max-w-4xl text-[22px] leading-[1.45] sm:text-[29px]">
      A <b className="font-medium">{uncapital(page.type)}</b> of{' '}
      <Length lengths={page.lengths} minutes={minutes} onChange={onMinutes} /> with{' '}
      {page.choice.length > 1 ? (
        <select
          aria-label="With whom"
          className={word}
          value={host}
          onChange={(event) => onHost(Number(event.target.value))}
        >
          <option value={0}>anyone free</option>
          {page.choice.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      ) : (
        <b className="font-medium">{page.host}</b>
      )}
      , by <b className="font-medium">video</b>
      {date && (
        <>
          , on <Word to="day">{longDate(date)}</Word> at{' '}
          {start ? (
            <a href="#day" className="rounded-(--radius) border-b-2 border-act bg-act-soft px-1.5 no-underline!">
              {clock(start, zone)}
            </a>
          ) : (
            <Word to="day">a time to choose</Word>
          )}
          {page.zones === 'client' && ' your time'}
        </>
      )}
      .
    </h1>
  )
}

const word =
  'field-sizing-content max-w-full cursor-pointer rounded-(--radius) border-0 border-b-2 border-dotted border-act bg-ground font-medium'

/** How long it is to last, to be chosen where there is a choice. */
function Length({
  lengths,
  minutes,
  onChange,
}: {
  lengths: number[]
  minutes: number
  onChange: (minutes: number) => void
}) {
  if (lengths.length < 2) return <b className="font-medium">{minutes} minutes</b>
  return (
    <select
      aria-label="Length"
      className={word}
      value={minutes}
      onChange={(event) => onChange(Number(event.target.value))}
    >
      {lengths.map((length) => (
        <option key={length} value={length}>
          {length} minutes
        </option>
      ))}
    </select>
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
