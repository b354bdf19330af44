/** What a tab or a browser remembers. Inside others' pages a browser may refuse to: then nothing is remembered, and all else works. */
export function remember(store: 'tab' | 'browser', key: string, value: string): void {
  try {
    storeOf(store).setItem(key, value)
  } catch {
    // refused, or full
  }
}

export function recall(store: 'tab' | 'browser', key: string): string | null {
  try {
    return storeOf(store).getItem(key)
  } catch {
    return null
  }
}

export function forget(store: 'tab' | 'browser', key: string): void {
  try {
    storeOf(store).removeItem(key)
  } catch {
    // there was nothing, then
  }
}

/** Asking for it is refused already where storage is. */
function storeOf(store: 'tab' | 'browser'): Storage {
  return store === 'tab' ? sessionStorage : localStorage
}

/** A key that nobody has had before: 128 bits. Unlike crypto.randomUUID, it works on pages without https. */
export function freshKey(): string {
  return Array.from(crypto.getRandomValues(new Uint8Array(16)), (byte) => byte.toString(16).padStart(2, '0')).join('')
}
