import { createContext, Fragment, type ReactNode, useContext } from 'react'
import type { Schemas } from '../../api/client'
import { recall, remember } from '../stored'
import { en, type Texts } from './en'

type Told = Schemas['Words']

/** The languages of the page. Those other than English are loaded when they are needed. */
const others = {
  de: () => import('./de').then((m) => m.de),
  fr: () => import('./fr').then((m) => m.fr),
  nl: () => import('./nl').then((m) => m.nl),
  pt: () => import('./pt').then((m) => m.pt),
  'pt-BR': () => import('./ptBR').then((m) => m.ptBR),
} as const

export const languages = {
  en: 'English',
  de: 'Deutsch',
  fr: 'Français',
  nl: 'Nederlands',
  pt: 'Português',
  'pt-BR': 'Português do Brasil',
} as const

export type { Texts } from './en'

export type Language = keyof typeof languages

/** The language that a list of ranges asks for: each is cut short from its end until one is there (RFC 4647, 3.4). */
export function lookup(ranges: readonly string[], available: readonly string[]): string | undefined {
  for (const range of ranges) {
    const tags = range.toLowerCase().split('-')
    while (tags.length > 0) {
      const found = available.find((tag) => tag.toLowerCase() === tags.join('-'))
      if (found) return found
      tags.pop()
      if (tags.at(-1)?.length === 1) tags.pop() // what a single letter begins goes with it
    }
  }
  return undefined
}

const kept = 'language'

/** What the link asks for, the client's choice from before, what the browser asks for, or the workspace's, in which the document comes. */
export function ownLanguage(): Language {
  const { lang, dataset } = document.documentElement
  const chosen = [dataset.asked, recall('browser', kept)].filter((tag) => tag != null)
  return (lookup([...chosen, ...navigator.languages, lang], Object.keys(languages)) ?? 'en') as Language
}

export function keepLanguage(language: Language): void {
  delete document.documentElement.dataset.asked
  remember('browser', kept, language)
}

export async function textsIn(language: Language): Promise<Texts> {
  return language === 'en' ? en : others[language]()
}

const Spoken = createContext<Texts>(en)

export const SpokenIn = Spoken.Provider

/** What the page says, in the client's language. */
export function useTexts(): Texts {
  return useContext(Spoken)
}

/** Pieces of a sentence, one after the other. */
export function Pieces({ of }: { of: ReactNode[] }) {
  // biome-ignore lint/suspicious/noArrayIndexKey: the pieces of a sentence keep their places
  return of.map((piece, i) => <Fragment key={i}>{piece}</Fragment>)
}

/** What the server says, in the client's language; in English where it has no code. */
export function said({ server }: Pick<Texts, 'server'>, told: Told): string {
  const answer = server[told.code ?? '']
  if (!answer) return told.sentence
  const differing = [...(told.with ?? [])]
  return answer.replace(/{}/g, () => String(differing.shift() ?? ''))
}
