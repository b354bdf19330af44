import type { Schemas } from '../api/client'
import { useTexts } from './texts'

interface Props {
  asks: Schemas['PageAsk'][]
  answers: Record<string, string>
  onAnswer: (attribute: string, value: string) => void
}

/** What decides who takes the meeting, asked before times are shown for it. */
export function Asks({ asks, answers, onAnswer }: Props) {
  const t = useTexts()
  if (asks.length === 0) return null
  return (
    <p className="-mt-2 mb-5 flex flex-wrap gap-x-6 gap-y-2">
      {asks.map(({ attribute, values }) => (
        <label key={attribute} className="text-ink-2">
          <span className="capitalize">{attribute}</span>:{' '}
          <select
            className="cursor-pointer rounded-(--radius) border-0 border-b-2 border-dotted border-act bg-ground px-1 py-1 text-base text-ink"
            value={answers[attribute] ?? ''}
            onChange={(event) => onAnswer(attribute, event.target.value)}
          >
            <option value="">{answers[attribute] ? t.noneOfThese : t.any}</option>
            {values.map((value) => (
              <option key={value}>{value}</option>
            ))}
          </select>
        </label>
      ))}
    </p>
  )
}
