// @vitest-environment happy-dom
import { afterEach, describe, expect, it, vi } from 'vitest'
import { keepPress, pressAgain } from './press'

afterEach(() => {
  document.body.innerHTML = ''
  vi.resetModules()
})

function page(id: string) {
  const drawn = document.createElement('div')
  drawn.innerHTML = `<a href="#day">a day</a><button aria-label="Monday, 3 open"><b>30</b></button><input><i id="${id}"></i>`
  return drawn
}

describe('a page that is drawn before it lives', () => {
  it('keeps the last press, does nothing about it, and does it on the living page', () => {
    const drawing = page('drawing')
    const hears = vi.fn()
    drawing.querySelector('button')?.addEventListener('click', hears)
    document.body.append(drawing)
    keepPress(drawing)
    expect(drawing.querySelector('input')?.hasAttribute('inert')).toBe(true)
    drawing.querySelector('b')?.dispatchEvent(new MouseEvent('click', { bubbles: true }))
    expect(hears).not.toHaveBeenCalled()

    const living = page('living')
    const pressed = vi.fn()
    living.querySelector('button')?.addEventListener('click', pressed)
    document.body.replaceChildren(living)
    pressAgain(document.body)
    pressAgain(document.body)
    expect(pressed, 'once').toHaveBeenCalledTimes(1)
  })

  it('forgets a press when something else was pressed after it', () => {
    const drawing = page('drawing')
    document.body.append(drawing)
    keepPress(drawing)
    drawing.querySelector('button')?.click()
    drawing.querySelector('i')?.dispatchEvent(new MouseEvent('click', { bubbles: true }))
    const living = page('living')
    const pressed = vi.fn()
    living.querySelector('button')?.addEventListener('click', pressed)
    document.body.replaceChildren(living)
    pressAgain(document.body)
    expect(pressed).not.toHaveBeenCalled()
  })

  it('gives the focus back, unless it is elsewhere by now', () => {
    const drawing = page('drawing')
    document.body.append(drawing)
    keepPress(drawing)
    drawing.querySelector('button')?.focus()
    const living = page('living')
    document.body.replaceChildren(living)
    pressAgain(document.body)
    expect(document.activeElement).toBe(living.querySelector('button'))

    document.body.replaceChildren(drawing)
    keepPress(drawing)
    drawing.querySelector('button')?.focus()
    const other = page('other')
    document.body.replaceChildren(other)
    other.querySelector('a')?.focus()
    pressAgain(document.body)
    expect(document.activeElement).toBe(other.querySelector('a'))
  })

  it('shows what came with the document as often as it is asked for, and takes it once', async () => {
    document.body.innerHTML =
      '<script type="application/json" id="given">{"page": {"type": "Call"}, "open": {"starts": []}}</script>'
    const { peek, take } = await import('./given')
    expect(peek('page')).toEqual({ type: 'Call' })
    expect(take('page')).toEqual({ type: 'Call' })
    expect(take('page')).toBeUndefined()
    expect(peek('open')).toEqual({ starts: [] })
  })

  it('asks for everything itself where nothing came', async () => {
    for (const text of ['null', '"GIVEN_WITH_THIS_ANSWER"', '{"page"']) {
      vi.resetModules()
      document.body.innerHTML = `<script type="application/json" id="given">${text}</script>`
      const { take } = await import('./given')
      expect(take('page'), text).toBeUndefined()
    }
  })
})
