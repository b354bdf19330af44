import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { say, speak } from '../say'
import { readDate } from './readDate'

test.each([
  ['2026-12-04', '2026-12-04'],
  ['4 dec', '2026-12-04'],
  ['4 December', '2026-12-04'],
  ['Dec 4', '2026-12-04'],
  ['4.12.', '2026-12-04'],
  ['4/12/2027', '2027-12-04'],
  ['Fri 4 Dec 2026', '2026-12-04'],
  ['Fri, 4 Dec', '2026-12-04'],
  ['2 jan', '2027-01-02'],
  ['20 nov', '2026-11-20'],
  ['fri', '2026-12-04'],
  ['Sunday', '2026-11-29'],
  ['tomorrow', '2026-11-30'],
  ['29 feb', null],
  ['29 feb 2028', '2028-02-29'],
  ['31 june', null],
  ['4 foo', null],
  ['soon', null],
  ['', null],
])('%s, read on Sunday 29 November 2026', (text, date) => {
  expect(readDate(text, '2026-11-29', say.kit.nearDays)).toBe(date)
})

describe('in German', () => {
  beforeAll(() => speak('de'))
  afterAll(() => speak('en'))

  test.each([
    ['4. dez', '2026-12-04'],
    ['4. Dez. 2027', '2027-12-04'],
    ['4. Dezember', '2026-12-04'],
    ['Fr., 4. Dez.', '2026-12-04'],
    ['2. März', '2027-03-02'],
    ['2. mai', '2027-05-02'],
    ['4.12.', '2026-12-04'],
    ['fr', '2026-12-04'],
    ['Mittwoch', '2026-12-02'],
    ['morgen', '2026-11-30'],
    ['übermorgen', '2026-12-01'],
    ['4 Dec', '2026-12-04'],
    ['friday', '2026-12-04'],
    ['we', null],
    ['31. Juni', null],
  ])('%s is read too', (text, date) => {
    expect(readDate(text, '2026-11-29', say.kit.nearDays)).toBe(date)
  })
})
