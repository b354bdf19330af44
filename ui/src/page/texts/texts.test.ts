import { describe, expect, it, vi } from 'vitest'
import {
  addDays,
  dayAndMonth,
  longDate,
  placeOf,
  shortDate,
  speakDatesIn,
  weekdayLetter,
  weekdayName,
} from '../../time/time'
import { type Language, languages, lookup, said, textsIn } from '.'
import { en } from './en'

describe('the language of the page', () => {
  it('is looked up by cutting ranges short from their end (RFC 4647, 3.4)', () => {
    // The RFC's own example: zh-Hant-CN-x-private1-private2 falls back over these.
    const range = 'zh-Hant-CN-x-private1-private2'
    for (const tag of ['zh-Hant-CN-x-private1-private2', 'zh-Hant-CN-x-private1', 'zh-Hant-CN', 'zh-Hant', 'zh'])
      expect(lookup([range], [tag])).toBe(tag)
    expect(lookup([range], ['zh-Hant-CN-x'])).toBeUndefined()
    expect(lookup(['pt-BR', 'de'], ['de', 'pt'])).toBe('pt')
    expect(lookup(['da', 'nl-BE'], ['de', 'nl'])).toBe('nl')
    expect(lookup(['DE-ch'], ['de'])).toBe('de')
    expect(lookup(['da'], ['de'])).toBeUndefined()
  })

  it('says everything in every language, and not in English', async () => {
    for (const language of Object.keys(languages) as Language[]) {
      if (language === 'en') continue
      const texts = await textsIn(language)
      const same = Object.entries(en).filter(
        ([key, value]) => typeof value === 'string' && value.length > 6 && texts[key as keyof typeof en] === value,
      )
      expect(same, language).toEqual([])
      for (const way of Object.keys(en.ways) as (keyof typeof en.ways)[]) expect(texts.ways[way]).toBeTruthy()
      expect(texts.book('10:15')).toContain('10:15')
    }
  })

  // Against CLDR's words, by the Intl of Node.js.
  it('writes dates as every language does', async () => {
    const locales = { en: 'en-GB', de: 'de-DE', fr: 'fr-FR', nl: 'nl-NL', pt: 'pt-PT', 'pt-BR': 'pt-BR' }
    for (const [language, locale] of Object.entries(locales)) {
      speakDatesIn((await textsIn(language as Language)).dates)
      for (let date = '2026-01-01'; date < '2027-01-01'; date = addDays(date, 1)) {
        vi.setSystemTime(date)
        const words = (options: Intl.DateTimeFormatOptions) => {
          const said = new Intl.DateTimeFormat(locale, { timeZone: 'UTC', ...options }).format(new Date(date))
          return language === 'en' ? said.replace(',', '') : said
        }
        expect(
          [longDate(date), shortDate(date), dayAndMonth(date), weekdayName(date), weekdayLetter(date)],
          `${language} ${date}`,
        ).toEqual([
          words({ weekday: 'long', day: 'numeric', month: 'long' }),
          words({ weekday: 'short', day: 'numeric', month: 'short' }),
          words({ day: 'numeric', month: 'short' }),
          words({ weekday: 'long' }),
          words({ weekday: 'narrow' }),
        ])
        vi.setSystemTime(addDays(date, 200))
        expect(longDate(date), `${language} ${date}, far off`).toBe(
          words({ weekday: 'long', day: 'numeric', month: 'long', year: 'numeric' }),
        )
        vi.useRealTimers()
      }
    }
    speakDatesIn(en.dates)
  })

  // Facts of the trade, from memory: what maps of these languages call the towns.
  it('calls the towns of zones as its readers do', async () => {
    const called = async (language: Language, zone: string) => {
      speakDatesIn((await textsIn(language)).dates)
      return placeOf(zone)
    }
    expect(await called('de', 'Europe/Lisbon')).toBe('Lissabon')
    expect(await called('fr', 'Europe/London')).toBe('Londres')
    expect(await called('nl', 'Europe/Paris')).toBe('Parijs')
    expect(await called('pt', 'America/Sao_Paulo')).toBe('São Paulo')
    expect(await called('de', 'Europe/Kyiv')).toBe('Kiew')
    expect(await called('en', 'America/St_Johns')).toBe('St. John’s')
    expect(await called('en', 'America/Halifax')).toBe('Halifax')
    speakDatesIn(en.dates)
  })

  it('has Brazil’s own words for a browser from there', async () => {
    expect(lookup(['pt-BR', 'en'], Object.keys(languages))).toBe('pt-BR')
    expect(lookup(['pt-PT', 'en'], Object.keys(languages))).toBe('pt')
    const said = JSON.stringify(Object.values((await textsIn('pt-BR')).server))
    for (const elsewhere of ['ficheiro', 'morada', 'ligação', 'de momento', 'equipa '])
      expect(said).not.toContain(elsewhere)
  })

  it('says what the server answers, with what differs in it', async () => {
    const de = await textsIn('de')
    expect(said(de, 'This offer was withdrawn. Write to Torvald (Oslo) for other times.')).toBe(
      'Dieses Angebot wurde zurückgezogen. Schreiben Sie Torvald (Oslo) wegen anderer Zeiten.',
    )
    expect(said(de, 'It could be moved until 24 hours before it begins. Write to your host instead.')).toContain(
      '24 Stunden',
    )
    expect(said(de, 'It could be cancelled until 3 days before it begins. Write to your host instead.')).toContain(
      '3 Tage',
    )
    expect(said(de, 'It could be moved until 1 hour before it begins. Write to your host instead.')).toContain(
      '1 Stunde',
    )
    expect(said(de, 'A sentence that nobody has put into German.')).toBe('A sentence that nobody has put into German.')
  })

  it('knows the same answers in every language, and the server still gives them', async () => {
    const go = import.meta.glob<string>(['../../../../{internal/app,internal/api,core/intake}/*.go', '!**/*_test.go'], {
      query: '?raw',
      import: 'default',
      eager: true,
    })
    const source = Object.values(go).join('\n')
    const { server } = await textsIn('de')
    for (const sentence of Object.keys(server)) {
      // Words that are put together from parts are looked for by part.
      const parts = sentence.split(
        /{}|1 (?:hour|minute)|moved|cancelled|\. Write to your host|until|before it begins|(?<=\.) (?=If you need)/,
      )
      for (const part of parts)
        expect(source.includes(part.trim().replace(/^“|”$/g, '')), `${sentence}: ${part}`).toBe(true)
    }
    for (const language of ['fr', 'nl', 'pt', 'pt-BR'] as const)
      expect(Object.keys((await textsIn(language)).server).sort(), language).toEqual(Object.keys(server).sort())
  })
})
