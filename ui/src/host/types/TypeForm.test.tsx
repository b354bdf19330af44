// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import { useState } from 'react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Schemas } from '../../api/client'
import { enter } from '../served'
import { TypeForm } from './TypeForm'

type Draft = Schemas['TypeDraft']

afterEach(cleanup)
beforeEach(() => {
  // The week plans that it asks for: none.
  vi.stubGlobal('fetch', async () => new Response('[]', { headers: { 'Content-Type': 'application/json' } }))
})

const survey: Draft = {
  name: 'Survey',
  slug: 'survey',
  description: '',
  rules: { duration: 50, before: 0, after: 10, step: 15, notice: 24 * 60, noticeInDays: false, windowDays: 60 },
}

const workspace = {
  rules: { before: 5, after: 15, step: 20, notice: 240, noticeInDays: false, windowDays: 30 },
  groups: [
    {
      name: 'buffers',
      fields: ['before', 'after', 'buffersInside'],
      note: { sentence: '5 min before, 15 after kept' },
    },
    { name: 'step', fields: ['step', 'offset', 'grid'], note: { sentence: 'every 20 min' } },
    { name: 'notice', fields: ['notice', 'noticeInDays'], note: { sentence: '4 hours' } },
    { name: 'window', fields: ['windowDays', 'windowFirst', 'windowLast'], note: { sentence: '30 days' } },
    { name: 'limit', fields: ['limits'], note: { sentence: 'none' } },
  ],
} as unknown as Schemas['WorkspaceView']

let draft = survey

function Editor({ wrong }: { wrong: Record<string, string> }) {
  const [current, setCurrent] = useState(survey)
  draft = current
  return (
    <QueryClientProvider client={new QueryClient()}>
      <TypeForm draft={current} unchanged={survey} wrong={wrong} workspace={workspace} onChange={setCurrent} />
    </QueryClientProvider>
  )
}

const show = (wrong: Record<string, string> = {}) => render(<Editor wrong={wrong} />)
describe('the times of a meeting type', () => {
  it('say what a meeting takes of the day', () => {
    show()
    expect(screen.getByText('It takes 60 minutes of your day; the client sees 50.')).toBeTruthy()
    enter('Buffer after in minutes', '0')
    expect(screen.queryByText(/of your day/)).toBeNull()
  })

  it('tell a notice in the unit it is kept in', () => {
    show()
    expect((screen.getByLabelText('Notice') as HTMLInputElement).value).toBe('24')
    enter('Unit of the notice', 'whole days')
    expect(draft.rules).toMatchObject({ notice: 24, noticeInDays: true })
    enter('Notice', '2')
    enter('Unit of the notice', 'hours')
    expect(draft.rules).toMatchObject({ notice: 120, noticeInDays: false })
    enter('Notice', '1.5')
    expect(draft.rules.notice, 'whole hours').toBe(120)
  })

  it('change how starts are laid out and whether buffers stay inside', () => {
    show()
    enter('How starts are laid out', 'from each opening')
    expect(draft.rules.grid).toBe('opening')
    expect(screen.queryByLabelText('Offset in minutes'), 'an offset does not shift it').toBeNull()
    enter('Buffers and hours', 'stay inside')
    expect(draft.rules.buffersInside).toBe(true)
  })

  it('switch between kinds of booking window without keeping parts of another', () => {
    show()
    enter('Booking window', 'between two dates')
    expect(draft.rules.windowFirst).toMatch(/^\d{4}-\d\d-\d\d$/)
    enter('Booking window', 'without end')
    expect(draft.rules).toMatchObject({ windowDays: 0 })
    expect(draft.rules.windowFirst).toBeUndefined()
    enter('Booking window', 'up to so many days ahead')
    expect(draft.rules.windowDays).toBe(60)
  })

  it('follow the workspace until they are set here, and go back by one press', () => {
    show()
    const follow = () => screen.getAllByRole('button', { name: 'Follow the workspace' })
    expect(follow()).toHaveLength(5)
    expect(screen.getByText(/workspace: every 20 min/)).toBeTruthy()
    fireEvent.click(follow()[1] as HTMLElement)
    expect(draft.rules).toMatchObject({ step: 20, follows: ['step'] })
    expect(follow()).toHaveLength(4)
    enter('Start step in minutes', '45')
    expect(draft.rules, 'what is changed here is set here').toMatchObject({ step: 45, follows: [] })
  })

  it('say how long it lasts: one length, several, or as long as needed', () => {
    show()
    enter('How long it lasts', 'one of several lengths')
    expect(draft.rules).toMatchObject({ duration: 50, others: [100] })
    enter('Further lengths in minutes', '90, 120 and x')
    expect(draft.rules.others).toEqual([90, 120])
    enter('How long it lasts', 'as long as the client needs')
    expect(draft.rules).toMatchObject({ upBy: 50, upTo: 200 })
    expect(draft.rules.others).toBeUndefined()
    enter('Longest in minutes', '150')
    expect(draft.rules.upTo).toBe(150)
    enter('How long it lasts', 'always the same time')
    expect(draft.rules.upBy).toBeUndefined()
  })

  it('add, change and remove limits', () => {
    show({ 'rules.limits.0': 'A limit of 0 would close every day.' })
    fireEvent.click(screen.getByRole('button', { name: 'Add a limit' }))
    expect(screen.getByText('A limit of 0 would close every day.')).toBeTruthy()
    enter('What is limited', 'minutes')
    enter('Per', 'a week')
    enter('Whose bookings', 'of yours in all')
    enter('Limit', '90')
    expect(draft.rules.limits).toEqual([{ of: 'host', per: 'week', minutes: 90 }])
    fireEvent.click(screen.getByRole('button', { name: 'Remove' }))
    expect(draft.rules.limits).toEqual([])
  })
})
