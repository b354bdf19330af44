import { describe, expect, it } from 'vitest'
import { type Language, languages, lookup, textsIn } from '.'
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
      expect(new Intl.DateTimeFormat(texts.locale).resolvedOptions().locale.slice(0, 2)).toBe(language)
    }
  })
})
