import { useMutation, useQuery } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Button } from '../../kit/kit'
import { languageName, say, spoken } from '../../say'
import { useDebounced } from '../useDebounced'
import { Letter } from './Letter'
import { WordsField } from './WordsField'

export type Own = Record<string, Text>
type Text = Schemas['Text']

interface Props {
  title: string
  kind: string
  /** It is a text message, not a mail. */
  text: boolean
  /** Whose messages they are; 0 is the workspace. */
  type: number
  /** In which there are words. */
  languages: string[]
  own: Own
  onChange: (own: Own) => void
  onClose: () => void
}

const partsOfMail = ['subject', 'opening', 'closing'] as const
const partsOfText = ['opening'] as const
const partsOfEntry = ['subject', 'opening'] as const
/** The next booking, whichever it is. */
const next = -1
const none: Text = { subject: '', opening: '', closing: '' }

/** A message's words in one language, and beside them the message as somebody would get it. */
export function WordsPanel({ title, kind, text: asText, type, languages, own, onChange, onClose }: Props) {
  const heading = useRef<HTMLHeadingElement>(null)
  useEffect(() => heading.current?.focus(), []) // on a phone it comes far below the sentences
  const [language, setLanguage] = useState<string>(spoken)
  const [booking, setBooking] = useState(next)
  const wish = {
    kind,
    by: asText ? ('text' as const) : ('mail' as const),
    type,
    language,
    booking,
    text: own[language] ?? none,
  }
  const shown = useShown(wish)
  const send = useMutation<unknown, Refusal, void>({
    mutationFn: () => need(api.POST('/messages/letter/send', { body: wish })),
  })
  const isEntry = kind.startsWith('entry-')
  const text = own[language] ?? shown?.builtIn
  const elsewhere = (has: boolean) =>
    languages.filter((one) => one !== language && Boolean(own[one]) === has).map(languageName)
  const set = (change: Partial<Text>) => {
    send.reset()
    onChange({ ...own, [language]: { ...(text ?? none), ...change } })
  }
  return (
    <section aria-label={say.messages.wordsOfMessage(title)} className="mb-4 border-b border-rule-strong pb-6">
      <div className="flex items-baseline justify-between gap-4">
        <h2 ref={heading} tabIndex={-1} className="outline-none">
          {title}
        </h2>
        <button type="button" className="link text-note" onClick={onClose}>
          {say.messages.close}
        </button>
      </div>
      <p className="text-note text-ink-2">
        {say.messages.wordsIn}{' '}
        <select
          aria-label={say.messages.languageOfWords}
          className="max-w-full border-0 border-b border-ink bg-transparent px-1 font-semibold text-ink"
          value={language}
          onChange={(event) => setLanguage(event.target.value)}
        >
          {languages.map((code) => (
            <option key={code} value={code}>
              {languageName(code)}
            </option>
          ))}
        </select>
        , {own[language] ? say.messages.ownHere : say.messages.builtInHere}.{' '}
        {say.messages.elsewhere(elsewhere(true), elsewhere(false))}{' '}
        {own[language] && (
          <button
            type="button"
            className="link"
            onClick={() => onChange(Object.fromEntries(Object.entries(own).filter(([one]) => one !== language)))}
          >
            {say.messages.backToBuiltIn}
          </button>
        )}
      </p>
      {shown && text && (
        <div key={language}>
          {(asText ? partsOfText : isEntry ? partsOfEntry : partsOfMail).map((part) => (
            <WordsField
              key={part}
              label={labelOf(part, asText, isEntry)}
              value={text[part]}
              known={shown.placeholders}
              language={language}
              fault={own[language] ? shown.wrong[part] : undefined}
              oneLine={part === 'subject'}
              onChange={(value) => set({ [part]: value })}
            />
          ))}
          <p className="text-note text-ink-3">{say.messages.howToInsert}</p>
          <Letter shown={shown} language={language} asText={asText} onBooking={setBooking} />
          <p className="mt-3 flex flex-wrap items-center gap-x-3 gap-y-1 text-note">
            <Button kind="plain" disabled={send.isPending} onClick={() => send.mutate()}>
              {say.messages.sendToMe}
            </Button>
            <span role="status" className={send.error ? 'text-need' : 'text-ink-2'}>
              {send.error ? send.error.message : send.isSuccess ? say.messages.sentToYou : ''}
            </span>
          </p>
        </div>
      )}
    </section>
  )
}

/** A mail has three parts, an entry in calendars a title and a text, a text message only itself. */
function labelOf(part: (typeof partsOfMail)[number], asText: boolean, isEntry: boolean): string {
  if (asText) return say.messages.textMessage
  return isEntry && part !== 'closing' ? say.messages.partsOfEntry[part] : say.messages.parts[part]
}

function useShown(wish: Schemas['MessageWish']): Schemas['MessageShown'] | undefined {
  const still = useDebounced(wish)
  // Only typing is waited for.
  const asked = about(still) === about(wish) ? still : wish
  return useQuery({
    queryKey: keys.tried.letter(about(asked), asked),
    queryFn: () => need(api.POST('/messages/letter', { body: asked })),
    // What another message or language can say is not this one's.
    placeholderData: (before, query) => (query?.queryKey[1] === about(asked) ? before : undefined),
    staleTime: 0,
  }).data
}

const about = ({ kind, by, type, language }: Schemas['MessageWish']) => `${kind} ${by} ${type} ${language}`
