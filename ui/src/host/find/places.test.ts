import { expect, test } from 'vitest'
import { dayPlaces, ownPlaces } from './places'

test('views, settings and actions are found by first letters, and by other words for them', () => {
  const names = (search: string) => ownPlaces(search).map(({ name }) => name)
  expect(names('loo')).toEqual(['Looks'])
  expect(names('ill')).toEqual(['I am away'])
  expect(names('public h')).toEqual(['Public holidays'])
  expect(names('meeting t')).toEqual(['New meeting type', 'Meeting types'])
  expect(names('  ')).toEqual([])
})

test('a day leads to one’s own week and to everybody’s day', () => {
  expect(dayPlaces('fri', '2026-11-29', 1).map(({ path }) => path)).toEqual([
    '/board?from=2026-11-30',
    '/board?of=all&from=2026-12-04',
  ])
  expect(dayPlaces('friend', '2026-11-29', 1)).toEqual([])
})
