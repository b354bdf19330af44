import type { Schemas } from '../api/client'
import { clock, longDate } from '../time/time'

interface Props {
  page: Schemas['Page']
  zone: string
  date: string | null
  start: Date | null
}

/** The choice so far as one sentence; its words lead to where they are chosen. */
export function Sentence({ page, zone, date, start }: Props) {
  return (
    <h1 className="mb-5 max-w-4xl text-[22px] leading-[1.45] sm:text-[29px]">
      A <b className="font-medium">{uncapital(page.type)}</b> of <b className="font-medium">{page.minutes} minutes</b>{' '}
      with <b className="font-medium">{page.host}</b>, by <b className="font-medium">video</b>
      {date && (
        <>
          , on <Word to="day">{longDate(date)}</Word> at{' '}
          {start ? (
            <a href="#day" className="rounded-(--radius) border-b-2 border-act bg-act-soft px-1.5 no-underline!">
              {clock(start, zone)}
            </a>
          ) : (
            <Word to="day">a time to choose</Word>
          )}{' '}
          your time
        </>
      )}
      .
    </h1>
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
