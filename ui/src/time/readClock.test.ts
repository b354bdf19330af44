import { expect, test } from 'vitest'
import { readClock } from './readClock'

test.each([
  ['9', 540],
  ['09:30', 570],
  ['9.30', 570],
  ['930', 570],
  ['1430', 870],
  ['14h', 840],
  ['14h30', 870],
  ['2pm', 840],
  ['2:30 PM', 870],
  ['2:30 p.m.', 870],
  ['12 am', 0],
  ['12:15 pm', 735],
  ['24:00', 1440],
  ['24:01', null],
  ['9:75', null],
  ['13 pm', null],
  ['0 am', null],
  ['noon', null],
  ['', null],
  ['9:3', null],
])('%s', (text, minute) => expect(readClock(text)).toBe(minute))
