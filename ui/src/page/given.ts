import type { Schemas } from '../api/client'

interface Given {
  page: Schemas['Page']
  prepared: Schemas['Prepared']
  open: Schemas['OpenTimes']
}

/** What came with the document itself (internal/api/pages.go): what a type's page says, what the link chooses, and the open times. */
function read(): Partial<Given> {
  try {
    return JSON.parse(document.getElementById('given')?.textContent ?? '') ?? {}
  } catch {
    return {} // as where Vite serves the page, which gives nothing
  }
}

/** What a link says that chooses and fills in nothing. */
export const nothingPrepared: Schemas['Prepared'] = { asked: {}, said: {} }

const given = read()

/** A part of what came with the document, to be shown at once. */
export function peek<K extends keyof Given>(part: K): Given[K] | undefined {
  return given[part]
}

/** The same, once: it is as old as the document, so whatever is looked at again is asked for again. */
export function take<K extends keyof Given>(part: K): Given[K] | undefined {
  const found = given[part]
  delete given[part]
  return found
}
