import type { Schemas } from '../api/client'
import type sentences from '../api/sentences.gen.json'
import { fieldClock, minuteOfClock, minuteText, monthNames, shortDate, weekdaysFromSunday } from '../time/time'

type Words = Schemas['Words']

/** A sentence of the server in another language: {} stands for what differs, in its order, or a function puts it in. */
export type Sentences<Code extends string = string> = Record<Code, string | ((...differs: string[]) => string)>

/** The codes of what only people of the workspace are told; what clients may be told has its words with the client's page. */
export type PeoplesCode = keyof (typeof sentences)['people']
export type ClientsCode = keyof (typeof sentences)['clients']

/** What the server says, in the language of the sentences; in English where they have none. */
export function inWords(words: Words, sentences: Sentences, language: string): string {
  const parts = (words.with ?? []).map((one) => partOf(one, sentences, language))
  if (words.code === 'joined') return parts.slice(1).join(parts[0])
  const sentence = sentences[words.code ?? '']
  if (sentence === undefined) return words.sentence
  if (typeof sentence === 'function') return sentence(...parts)
  return sentence.replace(/{}/g, () => parts.shift() ?? '')
}

/** What differs in a sentence: see Words in the API. */
interface Part {
  date?: string
  at?: string
  clock?: string
  from?: string
  to?: string
  weekday?: number
  month?: number
  and?: string[]
}

function partOf(one: unknown, sentences: Sentences, language: string): string {
  if (typeof one !== 'object' || one === null) return String(one ?? '')
  if ('sentence' in one) return inWords(one as Words, sentences, language)
  const part = one as Part
  if (part.date) return shortDate(part.date)
  if (part.at) return moment(part.at)
  if (part.clock) return clockOf(part.clock)
  if (part.from && part.to) return stretch(part.from, part.to)
  if (part.weekday !== undefined) return weekdaysFromSunday()[part.weekday] ?? ''
  if (part.month !== undefined) return monthNames()[part.month - 1] ?? ''
  return new Intl.ListFormat(language).format(part.and ?? [])
}

function moment(at: string): string {
  const [date = '', clock = ''] = at.split('T')
  return `${shortDate(date)}, ${clockOf(clock)}`
}

/** "10:15", on the clock that is shown. */
function clockOf(clock: string): string {
  return minuteText(minuteOfClock(clock))
}

/** Within a day from when to when; else with both dates. A stretch may end with its day. */
function stretch(from: string, to: string): string {
  const nextDay =
    to.endsWith(`T${fieldClock(0)}`) && new Date(to).getTime() - new Date(from).getTime() <= 24 * 3_600_000
  if (from.slice(0, 10) === to.slice(0, 10)) return `${clockOf(from.slice(11))}–${clockOf(to.slice(11))}`
  return nextDay ? `${clockOf(from.slice(11))}–${minuteText(1440)}` : `${moment(from)} – ${moment(to)}`
}
