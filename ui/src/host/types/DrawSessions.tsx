import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { Need } from '../../kit/kit'
import { Unfold } from '../../kit/Unfold'
import { say, told } from '../../say'
import { minuteOfClock, wallClock } from '../../time/time'
import { type Picked, PickTimes } from '../PickTimes'
import { useMe } from '../queries'

interface Props {
  type: Schemas['MeetingType']
  /** Who is to host them; 0 for whoever the type's rule gives each to. */
  host: number
  text: string
  /** The dates as the sentence was read. */
  read: Schemas['HandTime'][]
  onText: (text: string) => void
}

const most = 60

/** Sessions drawn on the days of a week. What is drawn is what the sentence says, and the other way round. */
export function DrawSessions(props: Props) {
  return (
    <Unfold words={say.types.drawOnDays}>
      <Days {...props} />
    </Unfold>
  )
}

function Days({ type, host, text, read, onText }: Props) {
  const me = useMe().data?.person
  const [drawn, setDrawn] = useState<{ times: Picked[]; said: string | null } | null>(null)
  const put = useMutation<Schemas['Words'], Refusal, Picked[]>({
    mutationFn: (times) => need(api.POST('/group-sessions/sentence', { body: { type: type.id, times } })),
  })
  // What was drawn last counts until something else is written.
  const stands = drawn && (drawn.said === null || drawn.said === text)
  const times = stands ? drawn.times : read.map((t) => ({ date: t.date, minute: minuteOfClock(t.clock) }))
  const draw = (next: Picked[]) => {
    const said = (sentence: string) => {
      setDrawn({ times: next, said: sentence })
      onText(sentence)
    }
    if (next.length === 0) return said('')
    setDrawn({ times: next, said: null })
    put.mutate(next, { onSuccess: (words) => said(told(words)), onError: () => setDrawn(null) })
  }
  const shown = host || (me && type.hosts.includes(me.id) ? me.id : type.hosts[0])
  if (!me || !shown) return null
  const from = times[0]?.date ?? wallClock(new Date(), me.zone).date
  const pick = { from, minutes: type.rules.duration, person: shown, open: new Map(), picked: times, onPick: draw, most }
  return (
    <div className="mt-2">
      {put.error && <Need>{put.error.message}</Need>}
      <PickTimes {...pick} />
    </div>
  )
}
