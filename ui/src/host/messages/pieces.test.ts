import { expect, test } from 'vitest'
import { inserted, pieceOf, pieces } from './pieces'

const known = [
  { name: 'when', condition: false, optional: false },
  { name: 'remark', condition: false, optional: true },
  { name: 'video', condition: true, optional: false },
]

test('a template’s tags are read as words', () => {
  const words = ['when', '#remark', ' ^ video ', '/video', 'whne'].map((inner) => pieceOf(inner, known))
  expect(words.map((piece) => piece.words)).toEqual([
    'day and time',
    'if given: remark',
    'unless it is by video',
    'end',
    'whne',
  ])
  expect(words.map((piece) => piece.known)).toEqual([true, true, true, true, false])
})

test('what is inserted is a template again, around what was selected', () => {
  const offered = pieces(known)
  expect(offered.map(({ sign, name }) => sign + name)).toEqual([
    'when',
    'remark',
    '#remark',
    '^remark',
    '#video',
    '^video',
  ])
  const texts = offered.map((piece) => inserted(piece, 'by the door'))
  expect(texts[0]).toEqual({ text: '{{when}}', at: 8 })
  expect(texts[4]).toEqual({ text: '{{#video}}by the door{{/video}}', at: 21 })
  for (const { text } of texts) expect([...text.matchAll(/\{\{([^{}\n]*)\}\}/g)].length).toBeGreaterThan(0)
})
