import type { ReactElement } from 'react'
import { refusalsIn, type Schemas } from '../api/client'
import { speakDatesIn } from '../time/time'
import type { en } from './en'
import { inWords } from './told'

/** The same in any words. */
type InAnyWords<T> = T extends string
  ? string
  : T extends (...of: infer P) => infer R
    ? (...of: P) => InAnyWords<R>
    : T extends ReactElement
      ? T
      : { [K in keyof T]: InAnyWords<T[K]> }

/** All that the host's application says, by view; every language says all of it. */
export type Say = InAnyWords<typeof en>

/** Those of the languages are loaded that are spoken. */
const languages = {
  en: () => import('./en').then(({ en }) => en),
  de: () => import('./de').then(({ de }) => de),
} satisfies Record<string, () => Promise<Say>>

export type Language = keyof typeof languages

/** What is said, in the language that is spoken. Views are loaded after it, so that their constants may say something too. */
export let say: Say

/** The language that is spoken. */
export let spoken: Language = 'en'

/** English instead of those that the host's application doesn't have. */
function spokenFor(language: string): Language {
  return language in languages ? (language as Language) : 'en'
}

/** Loads the document anew if somebody reads another language than is spoken: it comes in theirs. */
export function speakTheirs(language: string): void {
  if (spokenFor(language) !== spoken) location.reload()
}

/** Speaks a language from now on. */
export async function speak(language: string): Promise<void> {
  spoken = spokenFor(language)
  say = await languages[spoken]()
  speakDatesIn(say.dates)
  refusalsIn(told)
}

/** What a language is called in the one that is spoken. */
export function languageName(code: string): string {
  return new Intl.DisplayNames(spoken, { type: 'language' }).of(code) ?? code
}

/** A number with one digit after its point or comma. */
export function decimal(n: number): string {
  return new Intl.NumberFormat(spoken, { minimumFractionDigits: 1, maximumFractionDigits: 1 }).format(n)
}

/** Several things in a row: "German, French and Dutch". */
export function listed(things: string[]): string {
  return new Intl.ListFormat(spoken).format(things)
}

type Words = Schemas['Words']

/** What the server says, in the language that is spoken. */
export function told(words: Words | undefined): string {
  return words ? inWords(words, say.server, spoken) : ''
}

/** Several sentences of it, one after the other. */
export function toldAll(all: Words[]): string {
  return all.map(told).join(' ')
}

/** The same by field. */
export function toldOf(words: Record<string, Words> = {}): Record<string, string> {
  return Object.fromEntries(Object.entries(words).map(([field, one]) => [field, told(one)]))
}
