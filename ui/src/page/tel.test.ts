import { expect, it } from 'vitest'
import { telOf } from './tel'

// The digits of RFC 3966's examples (6), written as people write them.
it('calls a number however it was typed', () => {
  expect(telOf('+1 (201) 555-0123')).toBe('tel:+12015550123')
  expect(telOf('Ring +44 20.7946.0958, extension 4')).toBe('tel:+442079460958')
})
