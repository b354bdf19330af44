import type { ReactElement } from 'react'
import { speakDatesIn } from '../time/time'
import type { en } from './en'

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

/** Speaks a language from now on; English instead of those that the host's application doesn't have. */
export async function speak(language: string): Promise<void> {
  spoken = language in languages ? (language as Language) : 'en'
  say = await languages[spoken]()
  speakDatesIn(say.dates)
}
