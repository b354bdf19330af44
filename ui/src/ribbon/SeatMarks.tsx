import type { Schemas } from '../api/client'

/** The most seats that are drawn one by one; more are told as figures. */
const mostDrawn = 12

/** A row of seats: those that are taken are filled. */
export function SeatMarks({ filling: { taken, seats } }: { filling: Schemas['Filling'] }) {
  if (seats > mostDrawn)
    return (
      <span className="mark-seats">
        {taken}/{seats}
      </span>
    )
  return (
    <span className="mark-seats" aria-hidden>
      {Array.from({ length: seats }, (_, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: seats have nothing but their number
        <i key={i} className={i < taken ? 'taken' : undefined} />
      ))}
    </span>
  )
}
