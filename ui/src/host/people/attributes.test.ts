import { describe, expect, it } from 'vitest'
import { attributesOf, attributesText } from './attributes'

describe('attributes as they are typed', () => {
  it('are read back as they were written', () => {
    const given = { languages: ['English', 'Dutch'], region: ['Benelux'] }
    expect(attributesOf(attributesText(given))).toEqual({ attributes: given })
    expect(attributesOf('  languages :English ,Dutch; ')).toEqual({ attributes: { languages: ['English', 'Dutch'] } })
  })

  it('may hold colons, and be told in two parts', () => {
    expect(attributesOf('page: https://x.example; page: y').attributes).toEqual({ page: ['https://x.example', 'y'] })
  })

  it('name what says nothing instead of losing it', () => {
    expect(attributesOf('region: Benelux; Dutch').unread).toBe('Dutch')
    expect(attributesOf('region:').unread).toBe('region:')
    expect(attributesOf(': Dutch').unread).toBe(': Dutch')
    expect(attributesOf('')).toEqual({ attributes: {} })
  })
})
