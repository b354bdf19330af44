import { sha256 } from '@noble/hashes/sha2.js'
import type { Schemas } from '../api/client'

const bytes = new TextEncoder()

/** Finds what, put behind the token and a colon, has a SHA-256 that begins with so many zero bits (core/intake/puzzle.go). */
export function solve({ token, bits }: Schemas['PuzzleTask']): string {
  const begun = sha256.create().update(bytes.encode(`${token}:`))
  for (let n = 0; ; n++) {
    const answer = String(n)
    const hash = begun.clone().update(bytes.encode(answer)).digest()
    if (leadingZeros(hash) >= bits) return answer
  }
}

function leadingZeros(hash: Uint8Array): number {
  const first = hash.findIndex((byte) => byte !== 0)
  return first < 0 ? hash.length * 8 : first * 8 + Math.clz32(hash[first] ?? 0) - 24
}
