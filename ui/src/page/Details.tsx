import { type FormEvent, useEffect, useRef, useState } from 'react'
import type { Refusal, Schemas } from '../api/client'
import { Button, Need, TextArea, TextField } from '../kit/kit'
import { clock, longDate, wallClock } from '../time/time'
import { Along, askedOfAll } from './Along'
import { Nearest } from './Gone'
import { useLooks } from './looks'
import { Questions, shownOf, Tick } from './Questions'
import { said, type Texts, useTexts } from './texts'
import type { Type, Typed } from './typed'

interface Props {
  page: Schemas['Page']
  zone: string
  start: Date | null
  /** The time is full; what is sent is for the waiting list. */
  wait?: boolean
  /** How many times are full. */
  full?: number
  /** The ID of the chosen way of meeting. */
  way: string
  typed: Typed
  onType: Type
  onBook: () => Promise<void>
  /** Sends a file that the form asks for; left out where nothing is sent. */
  sendFile?: (file: File, share: (gone: number) => void) => Promise<Schemas['Upload']>
  /** Where the page asks for one. */
  refusal: Refusal | null
  onNearest: (start: Date) => void
}

/** The client's details. Nothing typed here is ever lost, whatever the answer. */
export function Details(props: Props) {
  const { page, zone, start, wait = false, full = 0, way, typed, onType, onBook, sendFile, refusal, onNearest } = props
  const t = useTexts()
  const own = useLooks()
  const [busy, setBusy] = useState(false)
  const form = useRef<HTMLFormElement>(null)
  const submit = async (event: FormEvent) => {
    event.preventDefault()
    if (!start) return
    setBusy(true)
    await onBook()
    setBusy(false)
  }
  // Whatever has to be mended is where the client looks next.
  useEffect(() => {
    if (refusal)
      form.current?.querySelector<HTMLElement>('[aria-invalid=true], [data-refused] button, [data-refused]')?.focus()
  }, [refusal])
  const problems = refusal?.toldOf ?? {}
  const problem = (field: string) => problems[field] && said(t, problems[field])
  const set = (field: 'name' | 'mail' | 'remark' | 'guests') => (event: { target: { value: string } }) =>
    onType({ [field]: event.target.value })
  return (
    <form
      ref={form}
      id="details"
      noValidate
      onSubmit={submit}
      aria-labelledby="details-head"
      className="h-fit scroll-mt-4 border-t-3 border-act bg-sheet px-5 pt-4 pb-5"
    >
      <h2 id="details-head">{t.yourDetails}</h2>
      {refusal && Object.keys(problems).length === 0 && <Taken refusal={refusal} zone={zone} onNearest={onNearest} />}
      {unplaced(Object.keys(problems), props).map((field) => (
        <div key={field} tabIndex={-1} data-refused>
          <Need className="mt-3">{problem(field)}</Need>
        </div>
      ))}
      <div className="mt-3 grid gap-3.5">
        <TextField
          label={t.name}
          aria-required
          autoComplete="name"
          value={typed.name}
          onChange={set('name')}
          problem={problem('name')}
        />
        <TextField
          label={t.mail}
          aria-required
          type="email"
          autoComplete="email"
          value={typed.mail}
          onChange={set('mail')}
          problem={problem('mail')}
        />
        <Given page={page} way={way} typed={typed} onType={onType} problem={problem('given')} />
        <Questions
          questions={page.questions}
          said={typed.said}
          onSay={(id, values) => onType((typed) => ({ said: { ...typed.said, [id]: values } }))}
          problems={problems}
          files={typed.files}
          sendFile={
            sendFile &&
            (async (id, file, share) => {
              const { token, name } = await sendFile(file, share)
              onType((typed) => ({
                said: { ...typed.said, [id]: [token] },
                files: { ...typed.files, [token]: name },
              }))
            })
          }
        />
        {page.guests > 0 && (
          <TextField
            label={t.guests(page.guests)}
            hint={t.guestsHint}
            placeholder={t.optional}
            value={typed.guests}
            onChange={set('guests')}
            problem={problem('guests')}
          />
        )}
        {wait && full > 1 && (
          <Tick
            label={t.anyWillDo}
            ticked={typed.any}
            onTick={(values) => onType({ any: values.length > 0 })}
            problem={undefined}
          />
        )}
        {(page.along ?? 0) > 0 && !wait && <Along page={page} typed={typed} onType={onType} problems={problems} />}
        <TextArea
          label={t.remark(askedBy(page))}
          placeholder={t.optional}
          rows={page.questions.length > 2 ? 2 : 3}
          value={typed.remark}
          onChange={set('remark')}
          problem={problem('remark')}
        />
        {(page.texts || page.proof === 'text') && (
          <ByText page={page} typed={typed} onType={onType} problem={problem} />
        )}
        <Policies page={page} />
        {page.consent && (
          <Tick
            label={page.consent}
            ticked={typed.consent}
            onTick={(values) => onType({ consent: values.length > 0 })}
            problem={problem('consent')}
          />
        )}
        {page.proof === 'puzzle' && <p className="text-small text-ink-2">{t.puzzleHint}</p>}
      </div>
      <div className="mt-4 flex items-center gap-4">
        <Button type="submit" disabled={!start || busy}>
          {start && wait
            ? t.joinList
            : start
              ? words(page.onRequest ? own.ask : own.book, page.onRequest ? t.ask : t.book, clock(start, zone))
              : t.chooseFirst}
        </Button>
        <p className="text-small text-ink-2">
          {start && wait ? t.willWait : start ? next(page, t)(longDate(wallClock(start, zone).date)) : t.pressDay}
        </p>
      </div>
    </form>
  )
}

/** The fields that were refused and that the form doesn't draw: they are told above it, so that no press on Book ends in silence. */
function unplaced(refused: string[], { page, way, typed, wait }: Props): string[] {
  const chosen = page.ways.find((w) => w.id === way)
  const drawn = ['name', 'mail', 'remark', ...shownOf(page.questions, typed.said).map((q) => `said.${q.id}`)]
  if (chosen?.kind === 'theirs' || (chosen?.kind === 'phone' && chosen.calls !== 'client')) drawn.push('given')
  if (page.guests > 0) drawn.push('guests')
  if (!wait) drawn.push(...typed.along.flatMap((_, i) => alongFields(page, i)))
  if (page.consent) drawn.push('consent')
  if (page.texts) drawn.push('phone', 'texts')
  if (page.proof === 'text') drawn.push('phone')
  return refused.filter((field) => !drawn.includes(field))
}

function alongFields(page: Schemas['Page'], at: number): string[] {
  return ['name', 'mail', ...askedOfAll(page).map(({ id }) => `said.${id}`)].map((field) => `along.${at}.${field}`)
}

/** What stands on the button: the workspace's own words before the time, or the page's. */
function words(own: string | undefined, usual: (clock: string) => string, at: string): string {
  return own ? `${own} ${at}` : usual(at)
}

/** What happens once it is sent. */
function next(page: Schemas['Page'], t: Texts): (day: string) => string {
  if (page.proof === 'code') return page.onRequest ? t.willProveFirst : t.willProve
  if (page.proof === 'text') return page.onRequest ? t.willProveTextedFirst : t.willProveTexted
  if (page.several) return t.willDecideAmong
  return page.onRequest ? t.willDecide : t.mayChange
}

/** The first name of the one host, if it is one. */
function askedBy({ host, choice }: Schemas['Page']): string {
  const one = /^[A-Z]/.test(host) && !/ and |,/.test(host) && choice.length < 2
  return one ? (host.split(' ')[0] ?? '') : ''
}

/** What the chosen way of meeting needs, and what it says. */
function Given({
  page,
  way,
  typed,
  onType,
  problem,
}: Pick<Props, 'page' | 'way' | 'typed' | 'onType'> & { problem: string | undefined }) {
  const t = useTexts()
  const chosen = page.ways.find((w) => w.id === way)
  const set = (event: { target: { value: string } }) => onType({ given: event.target.value })
  if (chosen?.kind === 'phone' && chosen.calls !== 'client')
    return (
      <TextField
        label={t.yourPhone}
        aria-required
        hint={t.phoneHint}
        type="tel"
        autoComplete="tel"
        value={typed.given}
        onChange={set}
        problem={problem}
      />
    )
  if (chosen?.kind === 'theirs')
    return (
      <TextArea label={t.yourAddress} aria-required rows={2} value={typed.given} onChange={set} problem={problem} />
    )
  if (chosen?.kind === 'video' && chosen.room?.recordingNotice)
    return <p className="text-note text-ink-2">{t.recorded}</p>
  if (!chosen?.text) return null
  return <p className="text-note whitespace-pre-line text-ink-2">{chosen.text}</p>
}

interface TextsProps extends Pick<Props, 'page' | 'typed' | 'onType'> {
  problem: (field: string) => string | undefined
}

/** A number for text messages, whoever gives one agrees to them in so many words; or for the code, which is agreed by asking for it. */
function ByText({ page, typed, onType, problem }: TextsProps) {
  const t = useTexts()
  const language = document.documentElement.lang.slice(0, 2)
  const proves = page.proof === 'text'
  const asked = page.texts && (typed.phone.trim() !== '' || typed.texts)
  return (
    <div className="grid gap-2">
      <TextField
        label={proves ? t.codePhone : t.textsPhone}
        aria-required={proves}
        placeholder={proves ? undefined : t.optional}
        hint={t.phoneHint}
        type="tel"
        autoComplete="tel"
        value={typed.phone}
        onChange={(event) => onType({ phone: event.target.value })}
        problem={problem('phone')}
      />
      {asked && (
        <Tick
          label={page.texts?.[language] ?? page.texts?.en ?? ''}
          ticked={typed.texts}
          onTick={(values) => onType({ texts: values.length > 0 })}
          problem={problem('texts')}
        />
      )}
    </div>
  )
}

function Policies({ page }: { page: Schemas['Page'] }) {
  const t = useTexts()
  if (!page.terms && !page.privacy) return null
  return (
    <details className="text-note text-ink-2">
      <summary className="cursor-pointer text-act">{t.policies}</summary>
      {page.terms && <p className="mt-1 whitespace-pre-line">{page.terms}</p>}
      {page.privacy && <p className="mt-1 whitespace-pre-line">{page.privacy}</p>}
    </details>
  )
}

/** Why it could not be booked; for a time that was taken, the nearest open ones. */
function Taken({ refusal, zone, onNearest }: { refusal: Refusal; zone: string; onNearest: (start: Date) => void }) {
  const t = useTexts()
  return (
    <Need className="mt-3">
      <p className="text-need">{refusal.status === 0 ? t.away : said(t, refusal.told)}</p>
      <Nearest nearest={refusal.nearest.map((text) => new Date(text))} zone={zone} onChoose={onNearest} />
    </Need>
  )
}
