import type { Schemas } from '../../api/client'
import { say } from '../../say'
import { Choice, pairs, Sentence } from '../rules/parts'
import { ClockPart } from './ClockPart'

type Quiet = Schemas['Quiet']

interface Props {
  quiet: Quiet
  saved: Quiet
  edits: boolean
  problem: string | undefined
  onChange: (quiet: Quiet) => void
}

const usual: Quiet = { from: '21:00', until: '08:00', later: false }
const none: Quiet = { from: '', until: '', later: false }

/** "Text messages are not sent between 21:00 and 08:00 on the client's clock; they go before that." */
export function QuietHours({ quiet, saved, edits, problem, onChange }: Props) {
  const set = quiet.from !== '' || quiet.until !== ''
  return (
    <fieldset className="mt-6 min-w-0" disabled={!edits} aria-label={say.messages.quietHours}>
      <Sentence problems={problem ? [problem] : []}>
        {say.messages.quiet(
          <Choice
            label={say.messages.quietWhether}
            value={set ? 'hours' : 'any'}
            options={pairs(say.messages.quietOr)}
            changed={set !== (saved.from !== '')}
            onChange={(to) => onChange(to === 'hours' ? usual : none)}
          />,
          set && (
            <>
              <ClockPart
                label={say.messages.quietFrom}
                value={quiet.from}
                changed={quiet.from !== saved.from}
                onChange={(from) => onChange({ ...quiet, from })}
              />{' '}
              {say.messages.and}{' '}
              <ClockPart
                label={say.messages.quietUntil}
                value={quiet.until}
                changed={quiet.until !== saved.until}
                onChange={(until) => onChange({ ...quiet, until })}
              />
            </>
          ),
          set && (
            <Choice
              label={say.messages.quietThen}
              value={quiet.later ? 'after' : 'before'}
              options={pairs(say.messages.quietSide)}
              changed={quiet.later !== saved.later}
              onChange={(side) => onChange({ ...quiet, later: side === 'after' })}
            />
          ),
        )}
      </Sentence>
    </fieldset>
  )
}
