import { QueryClient } from '@tanstack/react-query'
import { describe, expect, it } from 'vitest'
import { forgetOthers, hasChanged, keys } from './keys'

describe('what is kept of the server', () => {
  it('is asked for again where a change leaves it untrue, previews too, and nowhere else', async () => {
    const client = new QueryClient()
    const kept = [keys.types(true), keys.type(3), keys.tried.type(3, {}), keys.today, keys.staff, keys.oneOffs]
    for (const key of kept) client.setQueryData(key, 'kept')
    await hasChanged(client, 'type')
    const stale = kept.filter((key) => client.getQueryState(key)?.isInvalidated)
    expect(stale).toEqual([keys.types(true), keys.type(3), keys.tried.type(3, {}), keys.today])
  })

  it('of a booking goes with the board', async () => {
    const client = new QueryClient()
    client.setQueryData(keys.onBoard('takers', 4), 'kept')
    await hasChanged(client, 'bookings')
    expect(client.getQueryState(keys.onBoard('takers', 4))?.isInvalidated).toBe(true)
  })

  it('is forgotten for somebody else, but for who one is', () => {
    const client = new QueryClient()
    for (const key of [keys.me, keys.hours]) client.setQueryData(key, 'kept')
    forgetOthers(client)
    expect(client.getQueryData(keys.me)).toBe('kept')
    expect(client.getQueryData(keys.hours)).toBeUndefined()
  })
})
