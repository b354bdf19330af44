// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { SaveBar } from './SaveBar'

afterEach(cleanup)

function Editor({ changes, faults = 0, onSave = () => {} }: { changes: number; faults?: number; onSave?: () => void }) {
  return (
    <>
      <main tabIndex={-1}>
        <input aria-label="Fine" />
        <input aria-label="Wrong" aria-invalid={faults > 0 || undefined} />
      </main>
      <SaveBar
        changes={changes}
        save={{ isPending: false, reset: () => {} }}
        what={['buffers', 'notice']}
        faults={faults}
        discard={() => {}}
        onSave={onSave}
      />
    </>
  )
}

describe('the bar of what is not saved', () => {
  it('says what was changed, and goes once it is saved, with the focus back where it was', () => {
    const save = vi.fn()
    const { rerender } = render(<Editor changes={2} onSave={save} />)
    expect(screen.getByRole('status').textContent).toBe('2 changes not saved: buffers, notice')
    screen.getByLabelText('Fine').focus()
    const button = screen.getByRole('button', { name: 'Save changes' })
    button.focus()
    fireEvent.click(button)
    expect(save).toHaveBeenCalledOnce()
    rerender(<Editor changes={0} />)
    expect(screen.queryByRole('button', { name: 'Save changes' })).toBeNull()
    expect(document.activeElement).toBe(screen.getByLabelText('Fine'))
  })

  it('leads to the first of what has to be mended', () => {
    render(<Editor changes={1} faults={2} />)
    fireEvent.click(screen.getByRole('button', { name: 'Go to the first' }))
    expect(document.activeElement).toBe(screen.getByLabelText('Wrong'))
  })
})
