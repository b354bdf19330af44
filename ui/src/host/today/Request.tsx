import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, need, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Sheet } from '../../kit/Ask'
import { Button, Need, TextArea } from '../../kit/kit'
import { say } from '../../say'
import { clock, longDate, offsetOf, placeOf, shortDate, wallClock } from '../../time/time'
import { SoFar } from '../clients/SoFar'
import { Files } from '../Files'
import { type Picked, PickTimes } from '../PickTimes'
import { answerInWords } from '../steps'
import { useSettle, Way, WithWord } from './settle'

type Requested = Schemas['RequestedBooking']

/** What a client asks for and a host has to decide: what is known, and the ways to answer. */
export function Request({ request, zone }: { request: Requested; zone: string }) {
  const [proposing, setProposing] = useState(false)
  const params = { path: { id: request.id } }
  const approve = useSettle(() => need(api.POST('/host-bookings/{id}/approve', { params, body: {} })))
  const start = new Date(request.start)
  const date = wallClock(start, zone).date
  return (
    <article aria-label={say.today.request(request.client)} className="border-t-3 border-need py-3 wrap-anywhere">
      <p>
        {say.today.asks(<b className="text-[16.5px] font-semibold">{request.client}</b>, request.mail, request.type)}
        {request.host && say.today.withHost(request.host)}
      </p>
      <p className="figures">
        {longDate(date)}, {clock(start, zone)}
        {offsetOf(start, zone) !== offsetOf(start, request.clientZone) && (
          <span className="text-note text-ink-2">
            {' '}
            {say.today.clientsClock(clock(start, request.clientZone), placeOf(request.clientZone))}
          </span>
        )}
      </p>
      {request.where && <p className="text-note text-ink-2">{say.today.where(request.where)}</p>}
      {request.guests.length > 0 && (
        <p className="text-note text-ink-2">{say.today.guests(request.guests.join(', '))}</p>
      )}
      <p className="text-note text-ink-2">
        <SoFar soFar={request.soFar} mail={request.mail} zone={zone} />{' '}
        {request.remark && `${say.kit.quoted(request.remark)} `}
        {request.said.map((fact) => `${fact.word} ${answerInWords(fact)}.`).join(' ')}
      </p>
      <p className="text-note text-ink-2">
        {request.several ? (
          <Beside request={request} zone={zone} />
        ) : (
          say.today.timeKeptUntil(moment(request.expires, zone))
        )}
        {request.proposed.length > 0 &&
          say.today.youProposedWaitAnswer(request.proposed.map((at) => moment(at, zone)).join('; '))}
      </p>
      <Files files={request.files} />
      {approve.error && <Need className="mt-1">{approve.error.message}</Need>}
      <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-1">
        <Button onClick={() => approve.mutate(undefined)} disabled={approve.isPending || request.taken}>
          {say.today.approve}
        </Button>
        <Way words={say.today.proposeOtherTimes} onDo={() => setProposing(true)} />
        <WithWord
          title={say.today.declineClient(request.client)}
          words={say.today.decline}
          note={request.several ? say.today.theyToldMail : say.today.theyToldMailTime}
          send={(word) => need(api.POST('/host-bookings/{id}/decline', { params, body: { word } }))}
        />
      </div>
      <Sheet wide open={proposing} title={say.today.otherTimes(request.client)} onClose={() => setProposing(false)}>
        <Propose request={request} date={date} onDone={() => setProposing(false)} />
      </Sheet>
    </article>
  )
}

function moment(at: string, zone: string): string {
  const time = new Date(at)
  return `${shortDate(wallClock(time, zone).date)} ${clock(time, zone)}`
}

const most = 8

/** Where several can ask for one time: who else does, and whether it is gone. */
function Beside({ request, zone }: { request: Requested; zone: string }) {
  return (
    <>
      {request.taken ? (
        <b className="font-semibold text-need">{say.today.anotherBookingHasTime}</b>
      ) : (
        say.today.timeKeptNobodyDecide(moment(request.expires, zone))
      )}
      {request.asking > 0 && say.today.othersAskSameTime(request.asking)}
    </>
  )
}

/** Other times, picked on the ribbons; the requested one stays kept meanwhile, unless others can ask for it too. */
function Propose({ request, date, onDone }: { request: Requested; date: string; onDone: () => void }) {
  const [picked, setPicked] = useState<Picked[]>([])
  const [word, setWord] = useState('')
  const params = { path: { id: request.id } }
  const places = useQuery({
    queryKey: keys.onBoard('places', request.id, date),
    queryFn: () =>
      need(
        api.GET('/host-bookings/{id}/targets', {
          params: { ...params, query: { from: date, days: 14, person: request.hostId } },
        }),
      ),
  })
  const propose = useSettle((starts: Picked[]) =>
    need(api.POST('/host-bookings/{id}/propose', { params, body: { starts, word } })),
  )
  const minutes = Math.round((Date.parse(request.end) - Date.parse(request.start)) / 60_000)
  return (
    <>
      <p className="mb-2 text-note text-ink-2">
        {say.today.pressWhereCouldCome(request.client)}
        {!request.several && say.today.askedTimeStaysKept}
      </p>
      <PickTimes
        from={date}
        minutes={minutes}
        person={request.hostId}
        open={new Map(places.data?.map((place) => [place.date, place.open]))}
        picked={picked}
        onPick={setPicked}
        most={most}
      />
      <div className="mt-3">
        <TextArea
          label={say.today.messageThem}
          rows={2}
          placeholder={say.today.optional}
          value={word}
          onChange={(e) => setWord(e.target.value)}
        />
      </div>
      {propose.error && <Need className="mt-2">{propose.error.fields.starts ?? propose.error.message}</Need>}
      <p className="mt-3">
        <Button
          disabled={picked.length === 0 || propose.isPending}
          onClick={() => propose.mutate(picked, { onSuccess: onDone })}
        >
          {say.today.proposeTheseTimes(picked.length)}
        </Button>
      </p>
    </>
  )
}
