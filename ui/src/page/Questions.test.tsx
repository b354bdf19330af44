// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import { useState } from 'react'
import { afterEach, describe, expect, it } from 'vitest'
import type { Schemas } from '../api/client'
import { nothingPrepared } from './given'
import { Questions } from './Questions'
import { broughtBy } from './typed'

afterEach(cleanup)

const questions: Schemas['Question'][] = [
  { id: 'loan', kind: 'yes-no', label: 'Is it a loan?', required: true },
  { id: 'lender', kind: 'short', label: 'Who lends it?', when: { question: 'loan', is: ['yes'] } },
  { id: 'of', kind: 'several', label: 'Of what?', options: ['paper', 'silk'], when: { question: 'loan', is: ['yes'] } },
  { id: 'lux', kind: 'number', label: 'How many lux?', when: { question: 'of', is: ['silk'] } },
]

let last: Record<string, string[]> = {}

function Form({ problems = {} }: { problems?: Record<string, Schemas['Words']> }) {
  const [said, setSaid] = useState<Record<string, string[]>>({})
  last = said
  return (
    <Questions
      questions={questions}
      said={said}
      onSay={(id, values) => setSaid({ ...said, [id]: values })}
      problems={problems}
    />
  )
}

describe('the questions of a type', () => {
  it('come one after the other, as the answers say', () => {
    render(<Form />)
    expect(screen.queryByLabelText('Who lends it?')).toBeNull()
    fireEvent.click(screen.getByLabelText('Yes'))
    fireEvent.change(screen.getByLabelText('Who lends it?'), { target: { value: 'Fort Erie' } })
    fireEvent.click(screen.getByLabelText('silk'))
    expect(screen.getByLabelText('How many lux?')).toBeTruthy()
    fireEvent.click(screen.getByLabelText('paper'))
    fireEvent.click(screen.getByLabelText('silk'))
    expect(screen.queryByLabelText('How many lux?')).toBeNull()
    expect(last).toEqual({ loan: ['yes'], lender: ['Fort Erie'], of: ['paper'] })
    fireEvent.click(screen.getByLabelText('No'))
    expect(screen.queryByLabelText('Who lends it?')).toBeNull()
    fireEvent.click(screen.getByLabelText('Yes'))
    expect((screen.getByLabelText('Who lends it?') as HTMLInputElement).value, 'nothing typed is lost').toBe(
      'Fort Erie',
    )
  })

  it('say what is wrong where it is', () => {
    render(<Form problems={{ 'said.loan': { code: 'answer-not-chosen', sentence: 'Please choose an answer.' } }} />)
    expect(screen.getByText('Please choose an answer.')).toBeTruthy()
    expect(screen.getByLabelText('Yes').getAttribute('aria-invalid')).toBe('true')
  })

  it('are filled in by a link', () => {
    const prepared = {
      ...nothingPrepared,
      name: 'Tide Museum',
      mail: '',
      said: { of: ['paper', 'silk'] },
      way: 'phone',
    }
    expect(broughtBy(prepared)).toEqual({ name: 'Tide Museum', said: { of: ['paper', 'silk'] } })
    expect(broughtBy(nothingPrepared)).toEqual({})
  })
})
