import { useEffect, useState } from 'react'
import { api, need, type Refusal, refusalOf, type Schemas } from '../api/client'
import { Button } from '../kit/kit'
import { clock, placeOf, wallClock } from '../time/time'
import { Choice, type Of, useChoice } from './Choice'
import { Details } from './Details'
import { embedded, tell } from './embedded'
import { usePuzzle } from './puzzle'
import { sendFile } from './sending'
import { freshKey } from './stored'
import { useTexts } from './texts'
import { broughtBy, forgetTyped, type Typed, useTyped } from './typed'

interface Props extends Of {
  page: Schemas['Page']
  prepared: Schemas['Prepared']
  onBooked: (booking: Schemas['ClientBooking']) => void
}

/** A meeting type's page: choose a day and a time, give the details, book. */
export function BookPage({ workspace, type, offer, page: given, prepared, onBooked }: Props) {
  const choice = useChoice({ workspace, type, offer }, given, prepared)
  const { page, zone, start, wait, minutes, host, way, answers, times } = choice
  const [typed, setTyped] = useTyped(broughtBy(prepared))
  const [refusal, setRefusal] = useState<Refusal | null>(null)
  const puzzle = usePuzzle(page.proof === 'puzzle' && start !== null, () =>
    need(api.GET('/public/{workspace}/{type}/puzzle', { params: { path: { workspace, type } } })),
  )
  // One key for one booking: pressing twice, or again after the network failed, books once.
  const [key, setKey] = useState(freshKey)

  useEffect(() => {
    document.title = `${page.type} · ${page.workspace}`
  }, [page])
  // A time that a reload or a link brought may have been taken since; what the server says then decides.
  const choose = (at: Date) => {
    choice.setStart(at)
    choice.setDate(wallClock(at, zone).date)
    setRefusal(null)
    setKey(freshKey())
    tell('chosen')
  }
  const book = async () => {
    if (!start) return
    try {
      const chosen = { start: start.toISOString(), minutes, zone, host, answers, way, via: prepared.via }
      const body = {
        ...chosen,
        ...sent(typed),
        puzzle: await puzzle.solution(),
        wait,
        along: wait ? [] : typed.along,
        any: wait && typed.any,
        language: document.documentElement.lang,
      }
      const header = { 'Idempotency-Key': key }
      const booking = offer
        ? api.POST('/offers/{link}/bookings', { params: { path: { link: offer }, header }, body })
        : api.POST('/public/{workspace}/{type}/bookings', { params: { path: { workspace, type }, header }, body })
      const booked = await need(booking)
      forgetTyped()
      tell('booked')
      onBooked(booked)
    } catch (error) {
      const refused = refusalOf(error)
      setRefusal(refused)
      if (refused.fields.puzzle) void puzzle.begin()
      if (refused.status === 409) {
        choice.setStart(null)
        void times.reload()
      }
    }
  }
  return (
    <Choice choice={choice} home={offer ? undefined : `/p/${workspace}`} onChoose={choose}>
      <Details
        page={page}
        zone={zone}
        start={start}
        wait={wait}
        full={page.whole ? 0 : (times.look?.open.full?.length ?? 0)}
        way={way}
        typed={typed}
        onType={setTyped}
        onBook={book}
        sendFile={(file, share) => sendFile(`/api/public/${workspace}/${type}/files`, file, share)}
        refusal={refusal}
        onNearest={choose}
      />
      {start && !embedded && <PhoneBar page={page} zone={zone} start={start} />}
    </Choice>
  )
}

function sent({ guests, files: _files, ...typed }: Typed) {
  return {
    ...typed,
    guests: guests
      .split(/[,;\s]+/)
      .map((guest) => guest.trim())
      .filter(Boolean),
  }
}

/** On a phone, the chosen time stays in sight, and a press leads to the details. */
function PhoneBar({ page, zone, start }: { page: Schemas['Page']; zone: string; start: Date }) {
  const t = useTexts()
  const mine = clock(start, zone)
  const theirs = clock(start, page.hostZone)
  return (
    <div className="fixed inset-x-0 bottom-0 flex items-center justify-between border-t border-rule-strong bg-sheet px-5 py-3 sm:hidden">
      <p className="figures text-note text-ink-2">
        {mine} {page.zones === 'client' && t.yourTime}
        {theirs !== mine && (
          <>
            <br />
            {t.inPlace(theirs, placeOf(page.hostZone))}
          </>
        )}
      </p>
      <Button onClick={() => document.getElementById('details')?.scrollIntoView()}>{t.toDetails}</Button>
    </div>
  )
}
