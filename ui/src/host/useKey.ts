import { useEffect } from 'react'

/** Whether keys go into a field, and so mean nothing else. */
export function isTyping(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
}

/** Does something when a key is pressed outside of fields. */
export function useKey(key: string, pressed: () => void) {
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.key === key && !event.ctrlKey && !event.metaKey && !event.altKey && !isTyping(event.target)) pressed()
    }
    addEventListener('keydown', press)
    return () => removeEventListener('keydown', press)
  })
}
