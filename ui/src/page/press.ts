declare global {
  interface Window {
    /** What was done on the page drawn first: the names of the buttons that were pressed, and that had the focus, last. */
    done?: { pressed?: string | undefined; focused?: string | undefined }
  }
}

const buttons = 'button[aria-label]'

function nameOf({ target }: Event): string | undefined {
  return (target as Element).closest(buttons)?.getAttribute('aria-label') ?? undefined
}

/** Until the page lives, its fields stay closed, so that nothing typed is lost; a press and the focus are kept for later. */
export function keepPress(drawing: HTMLElement): void {
  const done: Window['done'] = {}
  window.done = done
  for (const field of drawing.querySelectorAll('select, input')) field.setAttribute('inert', '')
  const keep = (event: Event) => {
    event.stopPropagation()
    done.pressed = nameOf(event)
    if (done.pressed) event.preventDefault()
  }
  drawing.addEventListener('click', keep, { capture: true })
  drawing.addEventListener('focusin', (event) => {
    done.focused = nameOf(event)
  })
}

/** Does what was pressed before the page lived, and gives the focus back to where it was. */
export function pressAgain(root: HTMLElement): void {
  const { pressed, focused } = window.done ?? {}
  window.done = {}
  const named = (name: string | undefined) =>
    [...root.querySelectorAll<HTMLElement>(buttons)].find((b) => b.getAttribute('aria-label') === name)
  if (document.activeElement === document.body) named(focused)?.focus({ preventScroll: true })
  named(pressed)?.click()
}
