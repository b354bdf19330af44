import { expect, test } from 'vitest'
import { namedChanges } from './changes'

test('what was changed is named once, figures with what they were', () => {
  const before = { guests: 0, everyone: false, teams: [1], note: 'a', same: 1 }
  const after = { guests: 2, everyone: true, teams: [1, 2], note: 'b', same: 1 }
  const words = { guests: 'guests', everyone: 'hosts', teams: 'hosts' }
  expect(namedChanges(before, after, words)).toEqual(['guests 0 → 2', 'hosts', 'note'])
  expect(namedChanges(before, before, words)).toEqual([])
})
