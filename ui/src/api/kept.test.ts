import { afterEach, expect, it, vi } from 'vitest'
import { fetchToTheEnd, mostKept } from './kept'

afterEach(() => vi.unstubAllGlobals())

const change = (bytes: number) => new Request('https://corrim.example/api', { method: 'PUT', body: 'x'.repeat(bytes) })

it('keeps changes going without their page, as many as a browser allows at once, and no questions', async () => {
  const under: { keepalive: boolean; answer: () => void }[] = []
  vi.stubGlobal(
    'fetch',
    ({ keepalive }: Request) =>
      new Promise<Response>((resolve) => under.push({ keepalive, answer: () => resolve(new Response()) })),
  )
  const all = [fetchToTheEnd(change(mostKept - 10)), fetchToTheEnd(change(20)), fetchToTheEnd(change(10))]
  await vi.waitFor(() => expect(under.map(({ keepalive }) => keepalive)).toEqual([true, false, true]))
  for (const { answer } of under.splice(0)) answer()
  await Promise.all(all)

  const later = [fetchToTheEnd(change(mostKept)), fetchToTheEnd(new Request('https://corrim.example/api'))]
  await vi.waitFor(() => expect(under).toHaveLength(2))
  expect(under.filter(({ keepalive }) => keepalive)).toHaveLength(1)
  for (const { answer } of under) answer()
  await Promise.all(later)
})
