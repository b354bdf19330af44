import { createHash } from 'node:crypto'
import { describe, expect, it } from 'vitest'
import { solve } from './solve'

describe('a puzzle', () => {
  it('is solved as another SHA-256 sees it, by the first number that does', () => {
    for (const [token, bits] of [
      ['1777.abc', 8],
      ['1777.def', 11],
    ] as const) {
      const zeros = (n: string) => {
        const hash = createHash('sha256').update(`${token}:${n}`).digest()
        return BigInt(`0x${hash.toString('hex')}`) >> BigInt(256 - bits) === 0n
      }
      let first = 0
      while (!zeros(String(first))) first++
      expect(solve({ token, bits })).toBe(String(first))
    }
  })
})
