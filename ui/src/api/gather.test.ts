import { expect, test } from 'vitest'
import { gathered } from './gather'

test('what is asked for together goes together, so many at once and one request after the other', async () => {
  const asked: number[][] = []
  let open = 0
  const get = gathered(3, async (ids) => {
    expect(++open, 'one at a time').toBe(1)
    asked.push(ids)
    await new Promise((wake) => setTimeout(wake, 2))
    open--
    return ids.filter((id) => id !== 4).map((id) => ({ id, name: `type ${id}` }))
  })
  const found = await Promise.all([1, 2, 2, 3, 4].map(get))
  expect(found.map((one) => one?.name)).toEqual(['type 1', 'type 2', 'type 2', 'type 3', undefined])
  expect(asked).toEqual([
    [1, 2],
    [3, 4],
  ])
  expect((await get(7))?.id, 'later ones too').toBe(7)
})

test('a request that fails costs only those that were asked for with it', async () => {
  const get = gathered(1, async ([id = 0]) => {
    if (id === 1) throw new Error('away')
    return [{ id }]
  })
  const [first, second] = await Promise.allSettled([get(1), get(2)])
  expect(first.status).toBe('rejected')
  expect(second).toEqual({ status: 'fulfilled', value: { id: 2 } })
})
