import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { fireEvent, render, screen } from '@testing-library/react'
import type { ReactElement } from 'react'
import { MemoryRouter } from 'react-router'
import { vi } from 'vitest'

/** For tests: shows something that asks the server, which answers by method and path, at once or when a promise is kept; what it was
 *  sent is noted. */
export function showServed(shown: ReactElement, answers: Record<string, unknown>) {
  const sent: { asked: string; body: unknown }[] = []
  vi.stubGlobal('fetch', async (request: Request) => {
    const asked = `${request.method} ${new URL(request.url).pathname.replace('/api', '')}`
    const body = request.method === 'GET' ? null : await request.json().catch(() => null)
    sent.push({ asked, body })
    return asked in answers
      ? Response.json(await answers[asked])
      : Response.json({ detail: `nobody answers ${asked}` }, { status: 404 })
  })
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } })
  render(
    <MemoryRouter>
      <QueryClientProvider client={client}>{shown}</QueryClientProvider>
    </MemoryRouter>,
  )
  return sent
}

/** For tests: enters something into a field, or chooses an option by its words. */
export function enter(label: string, words: string) {
  const field = screen.getByLabelText<HTMLInputElement | HTMLSelectElement>(label)
  const options = field instanceof HTMLSelectElement ? [...field.options] : []
  const value = options.find(({ text }) => text === words)?.value ?? words
  fireEvent.change(field, { target: { value } })
}
