import { expect, test } from 'vitest'
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
  expect(readDate(text, '2026-11-29')).toBe(date)
})
