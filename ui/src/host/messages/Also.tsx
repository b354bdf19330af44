import type { Schemas } from '../../api/client'
import { languageName, say, spoken } from '../../say'
import { Choice, NumberPart, pairs, partLook } from '../rules/parts'

type Condition = Schemas['Condition']
type Asked = Schemas['AskedInType']

interface Props {
  n: number
  also: Condition[]
  before: Condition[]
  edits: boolean
  languages: string[]
  /** The questions of the type whose answers can decide. */
  asks: Asked[]
  onChange: (also: Condition[]) => void
}

const begun: Record<Exclude<Condition['what'], 'answer'>, string> = {
  way: 'video',
  language: spoken,
  short: '24',
  length: '30',
}

const about = ({ what, question }: Condition) => what + (question ?? '')

/** What can be asked for in a sentence, with the words for it: each question is one of its own. */
function all(asks: Asked[]): [Condition, string][] {
  return [
    ...pairs(say.messages.also).map(([what, words]): [Condition, string] => [{ what, is: begun[what] }, words]),
    ...asks.map((asked): [Condition, string] => [
      { what: 'answer', question: asked.id, is: asked.options[0] ?? '' },
      say.messages.alsoAnswer(asked.label),
    ]),
  ]
}

/** ", and they meet by video, and it lasts 30 minutes": what has to be so too. */
export function Also({ n, also, before, edits, languages, asks, onChange }: Props) {
  const known = all(asks)
  const left = known.filter(([one]) => !also.some((other) => about(other) === about(one)))
  const wordsOf = (one: Condition) =>
    known.find(([other]) => about(other) === about(one))?.[1] ?? say.messages.alsoAnswer('?')
  return (
    <>
      {also.map((one, i) => (
        <span key={about(one)}>
          , {wordsOf(one)}{' '}
          <Value
            label={say.messages.alsoLabel(n, wordsOf(one))}
            condition={one}
            changed={before.find((other) => about(other) === about(one))?.is !== one.is}
            languages={languages}
            options={asks.find(({ id }) => id === one.question)?.options ?? []}
            onChange={(part) => onChange(also.map((other, at) => (at === i ? { ...one, ...part } : other)))}
          />{' '}
          {edits && (
            <button
              type="button"
              className="link text-note"
              aria-label={say.messages.removeAlso(n, wordsOf(one))}
              onClick={() => onChange(also.filter((_, at) => at !== i))}
            >
              ×
            </button>
          )}
        </span>
      ))}
      {edits && left.length > 0 && (
        <>
          {' '}
          <select
            aria-label={say.messages.alsoMore(n)}
            className={`${partLook(false, false)} border-dotted! bg-transparent! font-normal! text-act`}
            value=""
            onChange={(event) => {
              const chosen = left.find(([one]) => about(one) === event.target.value)
              if (chosen) onChange([...also, chosen[0]])
            }}
          >
            <option value="">{say.messages.andMore}</option>
            {left.map(([one, words]) => (
              <option key={about(one)} value={about(one)}>
                {words} …
              </option>
            ))}
          </select>
        </>
      )}
    </>
  )
}

interface ValueProps {
  label: string
  condition: Condition
  changed: boolean
  languages: string[]
  options: string[]
  onChange: (part: Partial<Condition>) => void
}

function Value({ label, condition, changed, languages, options, onChange }: ValueProps) {
  const { what, is } = condition
  const choose = (to: string) => onChange({ is: to })
  if (what === 'answer')
    return <AnswerValue label={label} condition={condition} changed={changed} options={options} onChange={onChange} />
  if (what === 'way')
    return <Choice label={label} value={is} options={pairs(say.messages.ways)} changed={changed} onChange={choose} />
  if (what === 'language') {
    const codes = languages.map((code): [string, string] => [code, languageName(code)])
    return <Choice label={label} value={is} options={codes} changed={changed} onChange={choose} />
  }
  return (
    <>
      <NumberPart
        label={label}
        value={Number(is) || 0}
        changed={changed}
        wrong={false}
        onChange={(to) => choose(String(to))}
      />{' '}
      {what === 'short' ? say.messages.hoursBefore : say.messages.minutesLong}
    </>
  )
}

/** "is yes", "isn’t silk": one of the answers there are, or one that is written. */
function AnswerValue({
  label,
  condition: { is, not = false },
  changed,
  options,
  onChange,
}: Omit<ValueProps, 'languages'>) {
  return (
    <>
      <Choice
        label={say.messages.whetherIs(label)}
        value={not ? 'not' : 'is'}
        options={pairs(say.messages.isOrNot)}
        changed={changed}
        onChange={(to) => onChange({ not: to === 'not' })}
      />{' '}
      {options.length > 0 ? (
        <Choice
          label={label}
          value={is}
          options={options.map((one): [string, string] => [one, say.messages.answers[one] ?? one])}
          changed={changed}
          onChange={(to) => onChange({ is: to })}
        />
      ) : (
        <input
          aria-label={label}
          autoComplete="off"
          className={partLook(changed, false)}
          value={is}
          onChange={(event) => onChange({ is: event.target.value })}
        />
      )}
    </>
  )
}
