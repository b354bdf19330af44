import type { Schemas } from '../../api/client'
import { say } from '../../say'

type Placeholder = Schemas['Placeholder']

/** A fact in a text, or where a passage begins that stands only if something is so (#) or isn't (^), or where it ends (/). */
export interface Piece {
  sign: '' | '#' | '^' | '/'
  name: string
  words: string
  known: boolean
}

/** The piece that stands between the braces of a template. */
export function pieceOf(inner: string, known: Placeholder[]): Piece {
  const [, sign = '', name = ''] = /^\s*([#^/]?)\s*(.*?)\s*$/.exec(inner) ?? []
  const fact = known.find((one) => one.name === name)
  if (!fact) return { sign: sign as Piece['sign'], name, words: inner.trim() || '?', known: false }
  return piece(sign as Piece['sign'], fact)
}

function piece(sign: Piece['sign'], { name, condition, question }: Placeholder): Piece {
  const called = question ? say.messages.answerTo(question) : (say.messages.facts[name] ?? name)
  const words = {
    '': called,
    '#': condition ? say.messages.ifSo(called) : say.messages.ifGiven(called),
    '^': condition ? say.messages.unlessSo(called) : say.messages.unlessGiven(called),
    '/': say.messages.endOfPassage,
  }[sign]
  return { sign, name, words, known: true }
}

/** All that can be inserted: first the facts, then what passages can depend on. */
export function pieces(known: Placeholder[]): Piece[] {
  return [
    ...known.filter(({ condition }) => !condition).map((fact) => piece('', fact)),
    ...known
      .filter(({ condition, optional }) => condition || optional)
      .flatMap((fact) => [piece('#', fact), piece('^', fact)]),
  ]
}

/** A piece as a template has it, around what was selected, and where one goes on typing. */
export function inserted({ sign, name }: Piece, selected: string): { text: string; at: number } {
  if (!sign) {
    const text = `{{${name}}}`
    return { text, at: text.length }
  }
  const begin = `{{${sign}${name}}}${selected}`
  return { text: `${begin}{{/${name}}}`, at: begin.length }
}
