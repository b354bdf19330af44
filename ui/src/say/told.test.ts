import { afterAll, beforeAll, expect, it, vi } from 'vitest'
import sentences from '../api/sentences.gen.json'
import { speak, told, toldAll } from '.'
import { server } from './de/server'
import { inWords, type PeoplesCode } from './told'

beforeAll(() => {
  vi.useFakeTimers({ toFake: ['Date'], now: new Date('2026-05-01T12:00:00Z') })
  return speak('de')
})
afterAll(() => {
  vi.useRealTimers()
  return speak('en')
})

const german = { one: 'Hier: {}.', two: (a = '', b = '') => `${b} vor ${a}` }
const here = (differs: unknown) => inWords({ code: 'one', with: [differs], sentence: 'unread' }, german, 'de')

it.each([
  ['Ana & {}', 'Ana & {}'],
  [7, '7'],
  [{ date: '2026-05-05' }, 'Di., 5. Mai'],
  [{ at: '2026-05-05T10:15' }, 'Di., 5. Mai, 10:15'],
  [{ clock: '09:05' }, '09:05'],
  [{ from: '2026-05-05T10:15', to: '2026-05-05T11:00' }, '10:15–11:00'],
  [{ from: '2026-05-05T22:00', to: '2026-05-06T00:00' }, '22:00–24:00'],
  [{ from: '2026-05-05T22:00', to: '2026-05-07T01:00' }, 'Di., 5. Mai, 22:00 – Do., 7. Mai, 01:00'],
  [{ weekday: 0 }, 'Sonntag'],
  [{ month: 3 }, 'März'],
  [{ and: ['Ana', 'Bo', 'Cy'] }, 'Ana, Bo und Cy'],
  [{ code: 'two', with: ['a', 'b'], sentence: 'unread' }, 'b vor a'],
])('says what differs: %j', (differs, said) => {
  expect(here(differs)).toBe(`Hier: ${said}.`)
})

it('says several sentences, and those without words in English', () => {
  const joined = {
    code: 'joined',
    with: ['; ', { code: 'one', with: [1], sentence: '' }, { sentence: 'as typed' }],
    sentence: '',
  }
  expect(inWords(joined, german, 'de')).toBe('Hier: 1.; as typed')
  expect(inWords({ code: 'gone', sentence: 'In English.' }, german, 'de')).toBe('In English.')
  expect(told(undefined)).toBe('')
  expect(toldAll([{ code: 'found-only', sentence: '' }, { sentence: 'x' }])).toBe('Sonst kommt niemand in Frage. x')
})

it('has what differs in every sentence for people of the workspace', () => {
  const parts = (text: string) => text.split('{}').length
  const lacks = Object.entries(sentences.people).filter(([code, english]) => {
    const ours = server[code as PeoplesCode]
    return typeof ours === 'string' && parts(ours) !== parts(english)
  })
  expect(lacks.map(([code]) => code)).toEqual([])
})
