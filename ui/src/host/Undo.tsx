import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, need, type Refusal, type Schemas } from '../api/client'
import { keys } from '../api/keys'
import { Ask } from '../kit/Ask'
import { say, told } from '../say'
import { clock, shortDate, wallClock } from '../time/time'
import { useMe } from './queries'
import { useKey } from './useKey'

/** Undoes the last change of settings, after saying which it is; key u. While something else is unsaved it isn't offered, but what was asked
 *  stays asked: the view may be catching up with the server. */
export function Undo({ unsaved = false }: { unsaved?: boolean }) {
  const client = useQueryClient()
  const zone = useMe().data?.person?.zone ?? 'UTC'
  const [asking, setAsking] = useState(false)
  const history = useQuery({ queryKey: keys.history, queryFn: () => need(api.GET('/history')), staleTime: 0 })
  const undo = useMutation<Schemas['SettingChange'][], Refusal>({
    mutationFn: () => need(api.POST('/history/undo')),
    onSuccess: () => {
      setAsking(false)
      void client.invalidateQueries()
    },
  })
  const last = history.data?.find((change) => !change.undone)
  useKey('u', () => last && !unsaved && setAsking(true))
  if (!last) return null
  const at = new Date(last.at)
  const label = told(last.label)
  return (
    <>
      {!unsaved && (
        <button type="button" className="link" title={say.shell.undoKey(label)} onClick={() => setAsking(true)}>
          {say.shell.undoChange(short(label))}
        </button>
      )}
      <Ask
        open={asking}
        title={say.shell.undoLastChange}
        yes={say.shell.undoIt}
        no={say.shell.leave}
        busy={undo.isPending}
        onYes={() => undo.mutate()}
        onNo={() => setAsking(false)}
      >
        {say.shell.saved(label, shortDate(wallClock(at, zone).date), clock(at, zone))}
        {last.tells && <span className="mt-2 block">{say.shell.clientYourColleaguesTold}</span>}
        {undo.error && <span className="mt-2 block text-need">{undo.error.message}</span>}
      </Ask>
    </>
  )
}

/** What is undone, in the few words that fit beside a heading. */
function short(label: string): string {
  return label.length > 36 ? `${label.slice(0, 34).trimEnd()} …` : label
}
