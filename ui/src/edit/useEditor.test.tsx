// @vitest-environment happy-dom
import { act, renderHook } from '@testing-library/react'
import { describe, expect, it } from 'vitest'
import { useEditor } from './useEditor'

const saved = { name: 'Call', slug: 'call', rules: { notice: 60 } }

describe('the editor', () => {
  it('keeps unsaved changes when what is saved changes under them', () => {
    const { result, rerender } = renderHook(({ now }) => useEditor(now), { initialProps: { now: saved } })
    act(() => result.current.set({ name: 'Long call' }))
    rerender({ now: { ...saved, slug: 'theirs', rules: { notice: 120 } } })
    expect(result.current.draft).toEqual({ name: 'Long call', slug: 'theirs', rules: { notice: 120 } })
    expect(result.current.conflicts).toEqual([])

    rerender({ now: { ...saved, name: 'Their call' } })
    expect(result.current.draft.name).toBe('Long call')
    expect(result.current.conflicts).toEqual(['name'])
    act(() => result.current.discard())
    expect(result.current.draft.name).toBe('Their call')
    expect(result.current.conflicts).toEqual([])
  })

  it('follows what is saved as long as nothing was touched, and after one’s own save', () => {
    const { result, rerender } = renderHook(({ now }) => useEditor(now), { initialProps: { now: saved } })
    rerender({ now: { ...saved, name: 'Theirs' } })
    expect(result.current.draft.name).toBe('Theirs')
    expect(result.current.round).toBe(1)
    act(() => result.current.set({ name: 'Mine' }))
    act(() => result.current.keep({ ...saved, name: 'Mine, as the server writes it' }))
    rerender({ now: { ...saved, name: 'Theirs' } }) // what is asked for again has not come yet
    rerender({ now: { ...saved, name: 'Mine, as the server writes it' } })
    expect(result.current.draft).toEqual(result.current.saved)
    expect(result.current.draft.name).toBe('Mine, as the server writes it')
    expect(result.current.conflicts).toEqual([])
    expect(result.current.round, 'what was typed is what was saved').toBe(1)
  })

  it('is the same as what is saved when the same data comes again', () => {
    const { result, rerender } = renderHook(({ now }) => useEditor(now), { initialProps: { now: saved } })
    act(() => result.current.set({ slug: 'mine' }))
    rerender({ now: structuredClone(saved) })
    expect(result.current.draft.slug).toBe('mine')
  })
})
