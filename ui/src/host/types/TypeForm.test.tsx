// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import { useState } from 'react'
import { afterEach, describe, expect, it } from 'vitest'
import { TypeForm } from './TypeForm'
import type { Draft } from './TypePage'

afterEach(cleanup)

const survey: Draft = {
  name: 'Survey',
  slug: 'survey',
  description: '',
  rules: { duration: 50, before: 0, after: 10, step: 15, notice: 24 * 60, noticeInDays: false, windowDays: 60 },
}

let draft = survey

function Editor({ wrong }: { wrong: Record<string, string> }) {
  const [current, setCurrent] = useState(survey)
  draft = current
  return <TypeForm draft={current} unchanged={survey} wrong={wrong} onChange={setCurrent} />
}

const show = (wrong: Record<string, string> = {}) => render(<Editor wrong={wrong} />)
const set = (label: string, value: string) => fireEvent.change(screen.getByLabelText(label), { target: { value } })

describe('the times of a meeting type', () => {
  it('say what a meeting takes of the day', () => {
    show()
    expect(screen.getByText('It takes 60 minutes of your day; the client sees 50.')).toBeTruthy()
    set('Buffer after in minutes', '0')
    expect(screen.queryByText(/of your day/)).toBeNull()
  })

  it('tell a notice in the unit it is kept in', () => {
    show()
    expect((screen.getByLabelText('Notice') as HTMLInputElement).value).toBe('24')
    set('Unit of the notice', 'whole days')
    expect(draft.rules).toMatchObject({ notice: 24, noticeInDays: true })
    set('Notice', '2')
    set('Unit of the notice', 'hours')
    expect(draft.rules).toMatchObject({ notice: 120, noticeInDays: false })
    set('Notice', '1.5')
    expect(draft.rules.notice, 'whole hours').toBe(120)
  })

  it('change how starts are laid out and whether buffers stay inside', () => {
    show()
    set('How starts are laid out', 'from each opening')
    expect(draft.rules.grid).toBe('opening')
    expect(screen.queryByLabelText('Offset in minutes'), 'an offset does not shift it').toBeNull()
    set('Buffers and hours', 'stay inside')
    expect(draft.rules.buffersInside).toBe(true)
  })

  it('switch between kinds of booking window without keeping parts of another', () => {
    show()
    set('Booking window', 'between two dates')
    expect(draft.rules.windowFirst).toMatch(/^\d{4}-\d\d-\d\d$/)
    set('Booking window', 'without end')
    expect(draft.rules).toMatchObject({ windowDays: 0 })
    expect(draft.rules.windowFirst).toBeUndefined()
    set('Booking window', 'up to so many days ahead')
    expect(draft.rules.windowDays).toBe(60)
  })

  it('add, change and remove limits', () => {
    show({ 'rules.limits.0': 'A limit of 0 would close every day.' })
    fireEvent.click(screen.getByRole('button', { name: 'Add a limit' }))
    expect(screen.getByText('A limit of 0 would close every day.')).toBeTruthy()
    set('What is limited', 'minutes')
    set('Per', 'a week')
    set('Whose bookings', 'of yours in all')
    set('Limit', '90')
    expect(draft.rules.limits).toEqual([{ of: 'host', per: 'week', minutes: 90 }])
    fireEvent.click(screen.getByRole('button', { name: 'Remove' }))
    expect(draft.rules.limits).toEqual([])
  })
})
