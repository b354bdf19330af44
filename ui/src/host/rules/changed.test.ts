import { expect, it } from 'vitest'
import { changedRules } from './changed'

it('names what was changed of the rules by their groups, each once', () => {
  const groups = [
    { name: 'buffers', fields: ['before', 'after'], note: { sentence: '' } },
    { name: 'notice', fields: ['notice', 'noticeInDays'], note: { sentence: '' } },
  ]
  const before = { duration: 30, before: 0, after: 10, notice: 60, follows: ['buffers'] }
  expect(changedRules(before, before, groups)).toEqual([])
  expect(changedRules(before, { ...before, before: 5, after: 0, duration: 40, follows: [] }, groups)).toEqual([
    'length',
    'buffers',
  ])
})
