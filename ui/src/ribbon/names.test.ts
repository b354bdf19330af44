import { expect, test } from 'vitest'
import { lanesOf, nameWidth, placeNames } from './names'

const axis = { from: 480, to: 1080 } // ten hours
const width = 600 // a pixel a minute

test('stretches that overlap share the height, and only those', () => {
  const lanes = lanesOf([
    { from: 540, to: 600 },
    { from: 570, to: 630 },
    { from: 600, to: 660 }, // the first lane is free again
    { from: 700, to: 760 },
  ])
  expect(lanes).toEqual([
    { lane: 0, lanes: 2 },
    { lane: 1, lanes: 2 },
    { lane: 0, lanes: 2 },
    { lane: 0, lanes: 1 },
  ])
})

test('a name stands in its mark, beside it where the ribbon is free, or under a number', () => {
  const name = 'Penang Map Rooms'
  const long = Math.ceil(nameWidth(name))
  const names = (marks: { from: number; to: number }[], busy = [] as { from: number; to: number }[]) =>
    placeNames(
      marks.map((mark) => ({ ...mark, label: name })),
      busy,
      axis,
      width,
    ).map((placed) => placed.name + (placed.key || ''))
  expect(names([{ from: 500, to: 500 + long }])).toEqual(['inside'])
  expect(names([{ from: 500, to: 530 }])).toEqual(['beside'])
  expect(names([{ from: 500, to: 530 }], [{ from: 530 + long - 5, to: 700 }])).toEqual(['key1'])
  expect(names([{ from: 1040, to: 1070 }]), 'at the end of the ribbon').toEqual(['key1'])
  expect(
    names([
      { from: 500, to: 530 },
      { from: 540, to: 570 },
    ]),
    'the next one is in the way of the first',
  ).toEqual(['key1', 'beside'])
  expect(
    names([
      { from: 500, to: 540 },
      { from: 520, to: 560 },
    ]),
    'those above each other are not',
  ).toEqual(['beside', 'beside'])
})
