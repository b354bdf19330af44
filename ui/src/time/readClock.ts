/** The minute of the day that somebody means by "9", "9:30", "930", "9.30", "14h", "2 pm" or "24:00", or null. */
export function readClock(text: string): number | null {
  const said = text.trim().toLowerCase().replace(/\s+/g, ' ')
  const [, hours, minutes = '0', half] =
    /^(\d{1,2})(?:[:.h ](\d{2})|h)? ?([ap])?\.?(?:m\.?)?$/.exec(said) ??
    /^(\d{1,2})(\d{2}) ?([ap])?m?$/.exec(said) ??
    []
  if (hours === undefined) return null
  const hour = half ? ofTwelve(Number(hours), half) : Number(hours)
  const minute = hour === null ? -1 : 60 * hour + Number(minutes)
  return Number(minutes) < 60 && minute >= 0 && minute <= 1440 ? minute : null
}

function ofTwelve(hour: number, half: string): number | null {
  if (hour < 1 || hour > 12) return null
  return (hour % 12) + (half === 'p' ? 12 : 0)
}
