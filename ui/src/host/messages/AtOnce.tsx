import type { Schemas } from '../../api/client'
import { languageName, say } from '../../say'
import { pairs } from '../rules/parts'
import type { Own } from './WordsPanel'

type Kinds = Schemas['MessageDraft']['alsoText']

interface Props {
  /** In the order in which they come up. */
  kinds: string[]
  words: Record<string, Own>
  open: string | null
  edits: boolean
  /** What can be told by text message too, and what is. */
  texted: Kinds
  alsoText: Kinds
  problem: (kind: string) => string | undefined
  onWords: (kind: string) => void
  onAlsoText: (kinds: Kinds) => void
}

/** What people are told as soon as something happens. It can't be switched off, but said in other words. */
export function AtOnce({ kinds, words, open, edits, texted, alsoText, problem, onWords, onAlsoText }: Props) {
  return (
    <section aria-label={say.messages.atOnceTitle} className="mt-9">
      <h2>{say.messages.atOnceTitle}</h2>
      <p className="text-note text-ink-2">{say.messages.toldAtOnce}</p>
      {pairs(say.messages.groups).map(([whom, title]) => (
        <div key={whom} className="mt-4">
          <h3>{title}</h3>
          <ul aria-label={title}>
            {kinds
              .filter((kind) => kind.startsWith(`${whom}-`))
              .map((kind) => (
                <li
                  key={kind}
                  className={`flex flex-wrap items-baseline gap-x-3 border-b border-rule py-1.5 ${open === kind ? 'bg-act-soft' : ''}`}
                >
                  <span>{say.messages.atOnce[kind] ?? kind}</span>
                  <InOwnWords own={words[kind] ?? {}} />
                  {texted.includes(kind) && (
                    <label className="flex items-baseline gap-1.5 text-note text-ink-2">
                      <input
                        type="checkbox"
                        className="accent-act"
                        disabled={!edits}
                        checked={alsoText.includes(kind)}
                        onChange={(event) =>
                          onAlsoText(
                            event.target.checked ? [...alsoText, kind] : alsoText.filter((other) => other !== kind),
                          )
                        }
                      />
                      {say.messages.alsoByText}
                    </label>
                  )}
                  {problem(kind) && (
                    <span role="alert" className="text-note text-need">
                      {problem(kind)}
                    </span>
                  )}
                  {edits && (
                    <button
                      type="button"
                      className="link ml-auto text-note"
                      aria-label={say.messages.wordsOfMessage(say.messages.atOnce[kind] ?? kind)}
                      onClick={() => onWords(kind)}
                    >
                      {say.messages.words}
                    </button>
                  )}
                </li>
              ))}
          </ul>
        </div>
      ))}
    </section>
  )
}

/** In which languages a message has its own words. */
export function InOwnWords({ own }: { own: Own }) {
  const has = Object.keys(own).sort()
  if (has.length === 0) return null
  return <span className="text-note text-ink-2">{say.messages.ownIn(has.map(languageName))}</span>
}
