import { createContext, useContext, useEffect, useState } from 'react'
import type { Schemas } from '../api/client'
import { showTwelve } from '../time/time'

export type Looks = Schemas['PageLooks']

/** The workspace's own words, logo and banner, where it has any. */
export const LooksOf = createContext<Looks>({})

export const useLooks = () => useContext(LooksOf)

const tones = ['--color-act', '--color-act-soft', '--color-on-act', '--color-bar']

/** How times are written on the page, which has to be known before any is. */
export function writeTimesAs({ clock12 }: Looks): void {
  showTwelve(clock12 ?? false)
}

/** Paints the page in the workspace's colour, on whichever ground the device wants. */
export function paint({ light, dark }: Looks): void {
  const chosen = matchMedia('(prefers-color-scheme: dark)').matches ? dark : light
  const { style } = document.documentElement
  const values = chosen && [chosen.act, chosen.soft, chosen.on, chosen.bar]
  tones.forEach((name, i) => {
    const value = values?.[i]
    if (value) style.setProperty(name, value)
    else style.removeProperty(name)
  })
}

/** The looks to show: those that came with the page, or, in a frame of the host's application, those tried there. */
export function useShownLooks(came: Looks | undefined): Looks {
  const [tried, setTried] = useState<Looks | null>(null)
  const shown = tried ?? came
  useEffect(() => {
    const hear = (event: MessageEvent) => {
      if (event.origin === location.origin && event.source === parent && event.data?.looks) setTried(event.data.looks)
    }
    addEventListener('message', hear)
    if (parent !== window) parent.postMessage({ ready: true }, location.origin)
    return () => removeEventListener('message', hear)
  }, [])
  useEffect(() => {
    if (!shown) return
    paint(shown)
    const ground = matchMedia('(prefers-color-scheme: dark)')
    const again = () => paint(shown)
    ground.addEventListener('change', again)
    return () => ground.removeEventListener('change', again)
  }, [shown])
  return shown ?? {}
}
