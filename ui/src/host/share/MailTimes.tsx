import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Button, Need, SelectField } from '../../kit/kit'
import { LanguageOptions } from '../../kit/LanguageOptions'
import { ZoneOptions } from '../../kit/ZoneOptions'
import { say, spoken } from '../../say'
import { addDays, wallClock } from '../../time/time'
import { MakeOffer } from '../clients/Offers'
import { type Picked, PickTimes } from '../PickTimes'
import { useMe } from '../queries'
import { Copy } from './Copy'
import type { Link } from './sharing'

const most = 20

/** Open times for a letter: each becomes a link to the page with that time chosen. */
export function MailTimes({ type, says }: { type: Schemas['MeetingType']; says: Link }) {
  const me = useMe().data
  const own = me?.person?.zone ?? 'UTC'
  const [picked, setPicked] = useState<Picked[]>([])
  const [next, setNext] = useState(0)
  const [zone, setZone] = useState(own)
  const [language, setLanguage] = useState<string>(spoken)
  const today = wallClock(new Date(), own).date
  const open = useOpen(type, own, today)
  const wish = { starts: next ? [] : picked, next, zone, language, says }
  const text = useQuery<Schemas['TimesToPaste'], Refusal>({
    queryKey: keys.timesToPaste(type.id, wish),
    queryFn: () => need(api.POST('/types/{id}/times', { params: { path: { id: type.id } }, body: wish })),
    enabled: next > 0 || picked.length > 0,
    placeholderData: keepPreviousData,
  })
  const chosen = next > 0 || picked.length > 0
  return (
    <section aria-labelledby="times-head" className="mt-9 max-w-3xl">
      <h2 id="times-head">{say.share.timesLetter}</h2>
      <p className="mt-1 text-note text-ink-2">{say.share.pressOpenStartsWhich}</p>
      <p className="mt-2">
        <Button kind="plain" onClick={() => setNext(5)}>
          {say.share.nextFive}
        </Button>
      </p>
      <div className="mt-3">
        <PickTimes
          from={today}
          minutes={type.rules.duration}
          person={me?.person?.id ?? 0}
          open={open}
          picked={picked}
          onPick={(times) => {
            setNext(0)
            setPicked(times)
          }}
          most={most}
        />
      </div>
      {chosen && (
        <>
          <div className="mt-4 grid gap-x-6 gap-y-3 sm:grid-cols-2">
            <SelectField label={say.share.whoseClock} value={zone} onChange={(event) => setZone(event.target.value)}>
              <ZoneOptions own={own} />
            </SelectField>
            <SelectField
              label={say.share.languageLetter}
              value={language}
              onChange={(event) => setLanguage(event.target.value)}
            >
              <LanguageOptions />
            </SelectField>
          </div>
          {text.error && <Need className="mt-3">{text.error.fields.starts ?? text.error.message}</Need>}
          {text.data && !text.error && <Letter text={text.data} language={language} />}
          {picked.length > 0 && next === 0 && (
            <p className="mt-2 text-note">
              <MakeOffer
                words={say.share.keepThemOneClient}
                client={{ name: '', mail: '' }}
                before={{ type: type.id, picked }}
              />
            </p>
          )}
        </>
      )}
    </section>
  )
}

/** The type's open starts for clients, by day on the host's clock. */
function useOpen(type: Schemas['MeetingType'], zone: string, today: string): Map<string, number[]> {
  const [, , workspace = '', slug = ''] = type.path.split('/')
  const asked = useQuery({
    queryKey: keys.openToPick(type.id, today),
    queryFn: () =>
      need(
        api.GET('/public/{workspace}/{type}/open', {
          params: {
            path: { workspace, type: slug },
            query: { from: `${addDays(today, -1)}T00:00:00Z`, to: `${addDays(today, 90)}T00:00:00Z` },
          },
        }),
      ),
  })
  const open = new Map<string, number[]>()
  for (const start of asked.data?.starts ?? []) {
    const { date, minute } = wallClock(new Date(start), zone)
    open.set(date, [...(open.get(date) ?? []), minute])
  }
  return open
}

function Letter({ text, language }: { text: Schemas['TimesToPaste']; language: string }) {
  const [intro, ...lines] = text.plain.split('\n')
  const parts = (line: string) => {
    const at = line.lastIndexOf(': http')
    return { words: line.slice(0, at).replace(/^- /, ''), address: line.slice(at + 2) }
  }
  return (
    <>
      {text.gone.length > 0 && (
        <p role="alert" className="mt-3 text-note text-need">
          {say.share.notOpenClientsLeft(text.gone.length)}
        </p>
      )}
      <div
        role="note"
        aria-label={say.share.theText}
        lang={language}
        className="mt-4 border-l-3 border-rule-strong pl-4"
      >
        <p>{intro}</p>
        <ul className="list-disc pl-6">
          {lines.slice(0, -1).map((line) => (
            <li key={line}>
              <a href={parts(line).address} target="_blank" rel="noreferrer">
                {parts(line).words}
              </a>
            </li>
          ))}
        </ul>
        <p>
          <a href={parts(lines.at(-1) ?? '').address} target="_blank" rel="noreferrer">
            {parts(lines.at(-1) ?? '').words}
          </a>
        </p>
      </div>
      <p className="mt-3">
        <Copy text={text} words={say.share.copyText} />
      </p>
    </>
  )
}
