import { towns } from './towns/en.gen'

/**
 * How a language names days and months, and writes dates. The words are CLDR's, as Intl has them, which a test compares; Intl
 * itself takes a slow phone a sixth of a second when it is first used, before anything can be shown.
 */
export interface DateWords {
  /** From Sunday on. */
  weekdays: readonly string[]
  weekdaysShort: readonly string[]
  weekdayLetters: string
  months: readonly string[]
  monthsShort: readonly string[]
  long: (weekday: string, day: number, month: string) => string
  short: (weekday: string, day: number, month: string) => string
  dayAndMonth: (day: number, month: string) => string
  /** A date as the others write it, with its year. */
  withYear: (date: string, year: number) => string
  /** What the towns of zones are called, where that is not the end of the zone's name. */
  towns: Record<string, string>
}

export const english: DateWords = {
  weekdays: 'Sunday Monday Tuesday Wednesday Thursday Friday Saturday'.split(' '),
  weekdaysShort: 'Sun Mon Tue Wed Thu Fri Sat'.split(' '),
  weekdayLetters: 'SMTWTFS',
  months: 'January February March April May June July August September October November December'.split(' '),
  monthsShort: 'Jan Feb Mar Apr May Jun Jul Aug Sept Oct Nov Dec'.split(' '),
  long: (weekday, day, month) => `${weekday} ${day} ${month}`,
  short: (weekday, day, month) => `${weekday} ${day} ${month}`,
  dayAndMonth: (day, month) => `${day} ${month}`,
  withYear: (date, year) => `${date} ${year}`,
  towns,
}
