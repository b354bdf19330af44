// @vitest-environment happy-dom
import { afterEach, expect, it, vi } from 'vitest'
import { paint } from './looks'

afterEach(() => vi.unstubAllGlobals())

const tones = (act: string) => ({ act, soft: '#eeeeee', on: '#ffffff', bar: '#cccccc', moved: false })
const painted = () => document.documentElement.style.getPropertyValue('--color-act')

it('paints on the ground that the device wants, and takes back what the first drawing painted', () => {
  const dark = vi.fn(() => ({ matches: false }))
  vi.stubGlobal('matchMedia', dark)
  document.documentElement.style.setProperty('--color-act', '#123456') // by the first drawing, which is a program of its own
  paint({})
  expect(painted()).toBe('')
  paint({ light: tones('#7a1f4d'), dark: tones('#f0a0c0') })
  expect(painted()).toBe('#7a1f4d')
  dark.mockReturnValue({ matches: true })
  paint({ light: tones('#7a1f4d'), dark: tones('#f0a0c0') })
  expect(painted()).toBe('#f0a0c0')
})
