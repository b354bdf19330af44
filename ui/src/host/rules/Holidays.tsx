import { say } from '../../say'
import { useWorkspace } from '../queries'
import { partLook, type RuleProps, RuleSentence } from './parts'

/** The public holidays that are kept free, of each of the workspace's calendars. */
export function Holidays(props: RuleProps) {
  const { rules, unchanged, onChange } = props
  const calendars = useWorkspace().data?.holidayCalendars ?? []
  const kept = rules.holidays ?? []
  const toggle = (id: number) =>
    onChange({
      holidays: kept.includes(id) ? kept.filter((other) => other !== id) : [...kept, id].sort((a, b) => a - b),
    })
  return (
    <RuleSentence {...props} fields={['holidays']}>
      {calendars.length === 0 ? say.rules.publicHolidaysNotKept : say.rules.keptFreePublicHolidays}
      {calendars.map(({ id, name }, i) => {
        const changed = kept.includes(id) !== (unchanged.holidays ?? []).includes(id)
        return (
          <span key={id}>
            {i > 0 && ', '}
            <label className={`cursor-pointer whitespace-nowrap ${partLook(changed, false)}`}>
              <input type="checkbox" className="accent-act" checked={kept.includes(id)} onChange={() => toggle(id)} />{' '}
              {name}
            </label>
          </span>
        )
      })}
      {calendars.length > 0 && (kept.length > 0 ? '.' : say.rules.noneSoFar)}
    </RuleSentence>
  )
}
