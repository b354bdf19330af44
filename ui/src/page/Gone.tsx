import { Need } from '../kit/kit'
import { clock, longDate, shortDate, wallClock } from '../time/time'
import { useTexts } from './texts'

interface Props {
  start: Date
  nearest: Date[]
  zone: string
  onChoose: (start: Date) => void
}

/** A time that a link leads to, or that was chosen, and is not open any more: said, with the nearest that are. */
export function Gone({ start, nearest, zone, onChoose }: Props) {
  const t = useTexts()
  return (
    <Need className="mb-4">
      <p className="text-need">{t.gone(longDate(wallClock(start, zone).date), clock(start, zone))}</p>
      <Nearest nearest={nearest} zone={zone} onChoose={onChoose} />
    </Need>
  )
}

/** Open times nearby, each a press away. */
export function Nearest({ nearest, zone, onChoose }: Omit<Props, 'start'>) {
  const t = useTexts()
  if (nearest.length === 0) return null
  return (
    <p className="mt-1" data-refused>
      {t.openNearby}{' '}
      {nearest.map((at) => (
        <button
          key={at.toISOString()}
          type="button"
          className="link figures mr-3 font-semibold"
          onClick={() => onChoose(at)}
        >
          {shortDate(wallClock(at, zone).date).split(' ')[0]} {clock(at, zone)}
        </button>
      ))}
    </p>
  )
}
