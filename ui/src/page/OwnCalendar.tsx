import { type ChangeEvent, type DragEvent, useState } from 'react'
import { Need } from '../kit/kit'
import { busyInBackground } from './beside'
import type { Busy } from './own'
import { useTexts } from './texts'

interface Props {
  busy: Busy[] | null
  onBusy: (busy: Busy[] | null) => void
}

const ahead = 366 * 24 * 3600_000

/** Where the client lays files of their own calendar over the open times. */
export function OwnCalendar({ busy, onBusy }: Props) {
  const t = useTexts()
  const [unread, setUnread] = useState(false)
  const [over, setOver] = useState(false)
  const [reading, setReading] = useState(false)
  const read = async (files: Iterable<File>) => {
    const now = new Date()
    setReading(true)
    try {
      const found: Busy[] = []
      for (const file of files)
        found.push(...(await busyInBackground(await file.text(), now, new Date(now.getTime() + ahead))))
      setUnread(false)
      onBusy([...(busy ?? []), ...found])
    } catch {
      setUnread(true)
    }
    setReading(false)
  }
  const choose = (event: ChangeEvent<HTMLInputElement>) => {
    void read([...(event.target.files ?? [])])
    event.target.value = '' // so that the same file can be chosen again
  }
  const drop = (event: DragEvent) => {
    event.preventDefault()
    setOver(false)
    void read([...event.dataTransfer.files])
  }
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: dropping is one way; the field inside is the other
    <div
      className={`mt-2 border-y border-dotted py-1.5 text-note ${over ? 'border-act bg-act-soft' : 'border-rule-strong'}`}
      onDragOver={(event) => {
        event.preventDefault()
        setOver(true)
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <label className="link mr-2 focus-within:outline-2 focus-within:outline-act">
        {t.ownCalendar}
        <input type="file" accept=".ics,text/calendar" multiple className="sr-only" onChange={choose} />
      </label>
      {reading && <span role="status">{t.looking}</span>}
      {!reading && busy && (
        <>
          <span role="status">{busy.length > 0 ? t.ownCalendarShown(busy.length) : t.ownCalendarNone}</span>{' '}
          <button type="button" className="link" onClick={() => onBusy(null)}>
            {t.takeItAway}
          </button>
        </>
      )}
      {!reading && !busy && <span className="text-ink-3 max-sm:hidden">{t.ownCalendarHint}</span>}
      {unread && <Need className="mt-1">{t.ownCalendarUnread}</Need>}
    </div>
  )
}
