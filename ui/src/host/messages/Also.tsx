import type { Schemas } from '../../api/client'
import { languageName, say, spoken } from '../../say'
import { Choice, NumberPart, pairs, partLook } from '../rules/parts'

type Condition = Schemas['Condition']

interface Props {
  n: number
  also: Condition[]
  before: Condition[]
  edits: boolean
  languages: string[]
  onChange: (also: Condition[]) => void
}

const begun: Record<Condition['what'], string> = { way: 'video', language: spoken, short: '24', length: '30' }

/** ", and they meet by video, and it lasts 30 minutes": what has to be so too. */
export function Also({ n, also, before, edits, languages, onChange }: Props) {
  const left = pairs(say.messages.also).filter(([what]) => !also.some((one) => one.what === what))
  return (
    <>
      {also.map((one, i) => (
        <span key={one.what}>
          , {say.messages.also[one.what]}{' '}
          <Value
            n={n}
            condition={one}
            changed={before.find(({ what }) => what === one.what)?.is !== one.is}
            languages={languages}
            onChange={(is) => onChange(also.map((other, at) => (at === i ? { ...one, is } : other)))}
          />{' '}
          {edits && (
            <button
              type="button"
              className="link text-note"
              aria-label={say.messages.removeAlso(n, say.messages.also[one.what])}
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
              const what = event.target.value as Condition['what']
              onChange([...also, { what, is: begun[what] }])
            }}
          >
            <option value="">{say.messages.andMore}</option>
            {left.map(([what, words]) => (
              <option key={what} value={what}>
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
  n: number
  condition: Condition
  changed: boolean
  languages: string[]
  onChange: (is: string) => void
}

function Value({ n, condition: { what, is }, changed, languages, onChange }: ValueProps) {
  const label = say.messages.alsoLabel(n, say.messages.also[what])
  if (what === 'way')
    return <Choice label={label} value={is} options={pairs(say.messages.ways)} changed={changed} onChange={onChange} />
  if (what === 'language') {
    const options = languages.map((code): [string, string] => [code, languageName(code)])
    return <Choice label={label} value={is} options={options} changed={changed} onChange={onChange} />
  }
  return (
    <>
      <NumberPart
        label={label}
        value={Number(is) || 0}
        changed={changed}
        wrong={false}
        onChange={(to) => onChange(String(to))}
      />{' '}
      {what === 'short' ? say.messages.hoursBefore : say.messages.minutesLong}
    </>
  )
}
