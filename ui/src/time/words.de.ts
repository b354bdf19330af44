import { towns } from './towns/de.gen'
import type { DateWords } from './words'

export const german: DateWords = {
  weekdays: 'Sonntag Montag Dienstag Mittwoch Donnerstag Freitag Samstag'.split(' '),
  weekdaysShort: 'So. Mo. Di. Mi. Do. Fr. Sa.'.split(' '),
  weekdayLetters: 'SMDMDFS',
  months: 'Januar Februar März April Mai Juni Juli August September Oktober November Dezember'.split(' '),
  monthsShort: 'Jan. Feb. März Apr. Mai Juni Juli Aug. Sept. Okt. Nov. Dez.'.split(' '),
  long: (weekday, day, month) => `${weekday}, ${day}. ${month}`,
  short: (weekday, day, month) => `${weekday}, ${day}. ${month}`,
  dayAndMonth: (day, month) => `${day}. ${month}`,
  withYear: (date, year) => `${date} ${year}`,
  towns,
}
