import { useEffect, useRef } from 'react'
import type { Schemas } from '../api/client'
import { Button, TextField } from '../kit/kit'
import { Questions } from './Questions'
import { said, useTexts } from './texts'
import type { Person, Type, Typed } from './typed'

interface Props {
  page: Schemas['Page']
  typed: Typed
  onType: Type
  problems: Record<string, Schemas['Words']>
}

/** The questions that everybody is asked who comes along. */
export function askedOfAll(page: Schemas['Page']): Schemas['Question'][] {
  return page.questions.filter(({ everybody, kind }) => everybody && kind !== 'file' && kind !== 'terms')
}

/** Those for whom a seat is taken too, each with a name, an address if they have one, and what everybody is asked. */
export function Along({ page, typed, onType, problems }: Props) {
  const t = useTexts()
  const last = useRef<HTMLDivElement>(null)
  const count = useRef(typed.along.length)
  // Whoever was added is typed next.
  useEffect(() => {
    if (typed.along.length > count.current) last.current?.querySelector('input')?.focus()
    count.current = typed.along.length
  }, [typed.along.length])
  const set = (at: number, change: Partial<Person>) =>
    onType((typed) => ({ along: typed.along.map((one, i) => (i === at ? { ...one, ...change } : one)) }))
  const problem = (field: string) => problems[field] && said(t, problems[field])
  return (
    <>
      {typed.along.map((one, i) => (
        <fieldset
          // biome-ignore lint/suspicious/noArrayIndexKey: they are in the order in which they were typed
          key={i}
          className="grid gap-3.5 border-t border-rule pt-3"
        >
          <legend className="sr-only">{t.alongNumber(i + 1)}</legend>
          <div ref={i === typed.along.length - 1 ? last : undefined} className="grid gap-3.5">
            <TextField
              label={t.alongName}
              aria-required
              value={one.name}
              onChange={(event) => set(i, { name: event.target.value })}
              problem={problem(`along.${i}.name`)}
            />
            <TextField
              label={t.alongMail}
              hint={t.alongMailHint}
              placeholder={t.optional}
              type="email"
              value={one.mail}
              onChange={(event) => set(i, { mail: event.target.value })}
              problem={problem(`along.${i}.mail`)}
            />
            <Questions
              questions={askedOfAll(page)}
              said={one.said}
              onSay={(id, values) => set(i, { said: { ...one.said, [id]: values } })}
              problems={problemsOf(i, problems)}
            />
          </div>
          <p>
            <Button
              kind="text"
              type="button"
              onClick={() => onType((typed) => ({ along: typed.along.filter((_, at) => at !== i) }))}
            >
              {t.leaveOut(one.name)}
            </Button>
          </p>
        </fieldset>
      ))}
      {typed.along.length < (page.along ?? 0) && (
        <p>
          <Button
            kind="text"
            type="button"
            onClick={() => onType((typed) => ({ along: [...typed.along, { name: '', mail: '', said: {} }] }))}
          >
            {t.bringSomebody}
          </Button>
        </p>
      )}
    </>
  )
}

/** What is wrong with the answers of one of them, as with a client's own. */
function problemsOf(at: number, problems: Props['problems']): Props['problems'] {
  const prefix = `along.${at}.`
  const own = Object.entries(problems).filter(([field]) => field.startsWith(`${prefix}said.`))
  return Object.fromEntries(own.map(([field, words]) => [field.slice(prefix.length), words]))
}
