import type { Schemas } from '../api/client'
import { told } from '../say'

type Labelled = Pick<Schemas['Mark'], 'label' | 'says'>

/** What stands on a mark, in the language that is spoken. */
export function labelOf({ label = '', says }: Labelled): string {
  return says ? told(says) : label
}

/** The same marks with what stands on them. */
export function labelled<M extends Labelled>(marks: M[]): M[] {
  return marks.map((mark) => ({ ...mark, label: labelOf(mark) }))
}
