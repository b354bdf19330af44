import { describe, expect, it } from 'vitest'
import { merge } from './merge'

const base = { name: 'Call', slug: 'call', rules: { notice: 60, before: 0, limits: [{ count: 3 }] } }

describe('one’s own changes over somebody else’s', () => {
  it('keeps what only one of both has changed', () => {
    const mine = { ...base, name: 'Long call', rules: { ...base.rules, before: 10 } }
    const theirs = { ...base, slug: 'long-call', rules: { ...base.rules, notice: 120 } }
    expect(merge(base, mine, theirs)).toEqual({
      merged: { name: 'Long call', slug: 'long-call', rules: { notice: 120, before: 10, limits: [{ count: 3 }] } },
      conflicts: [],
    })
  })

  it('keeps one’s own where both did, and names it', () => {
    const mine = { ...base, name: 'Mine', rules: { ...base.rules, limits: [] } }
    const theirs = { ...base, name: 'Theirs', rules: { ...base.rules, limits: [{ count: 5 }] } }
    const { merged, conflicts } = merge(base, mine, theirs)
    expect(merged).toEqual(mine)
    expect(conflicts).toEqual(['name', 'rules.limits'])
  })

  it('finds nothing to quarrel about where both did the same', () => {
    const same = { ...base, name: 'Same' }
    expect(merge(base, same, { ...same, slug: 'other' })).toEqual({ merged: { ...same, slug: 'other' }, conflicts: [] })
  })

  it('takes what is new on their side, and what is gone', () => {
    const theirs: Partial<typeof base> & { category?: string } = { ...base, category: 'Light' }
    expect(merge<object>(base, base, theirs).merged).toEqual(theirs)
    expect(merge<object>({ a: 1, b: 2 }, { a: 1, b: 2 }, { a: 1 }).merged).toEqual({ a: 1, b: undefined })
  })
})
