import { describe, expect, it, vi } from 'vitest'
import sentences from '../../api/sentences.gen.json'
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

  it('says what the server answers by its code, with what differs in it', async () => {
    const de = await textsIn('de')
    const told = (code: string, ...differs: string[]) => said(de, { code, with: differs, sentence: 'In English.' })
    expect(told('offer-withdrawn', 'Torvald (Oslo)')).toBe(
      'Dieses Angebot wurde zurückgezogen. Schreiben Sie Torvald (Oslo) wegen anderer Zeiten.',
    )
    expect(told('move-until-hours', '24')).toContain('24 Stunden')
    expect(told('client-full', '5', 'Quillmere {}')).toMatch(/höchstens 5 .* an Quillmere {}\./)
    expect(told('nobody-has-put-this-into-german')).toBe('In English.')
    expect(said(de, { sentence: 'Only for people of the workspace.' })).toBe('Only for people of the workspace.')
  })

  // That each language has every code, and no other, is known to the compiler.
  it('has what differs in every sentence of the server', async () => {
    const parts = (text: string) => text.split('{}').length
    for (const language of ['de', 'fr', 'nl', 'pt', 'pt-BR'] as const) {
      const { server } = await textsIn(language)
      for (const [code, english] of Object.entries(sentences.clients)) {
        // Which files are taken is said in the sentence itself where it is not in English.
        if (code !== 'file-kind') expect(parts(server[code] ?? ''), `${language}: ${code}`).toBe(parts(english))
      }
    }
  })
})
