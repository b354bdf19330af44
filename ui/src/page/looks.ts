import { createContext, useContext, useEffect, useMemo, useState } from 'react'
import type { Schemas } from '../api/client'
import { showTwelve } from '../time/time'
import { embedded } from './embedded'

export type Looks = Schemas['PageLooks']

/** The workspace's own words, logo and banner, where it has any. */
export const LooksOf = createContext<Looks>({})

export const useLooks = () => useContext(LooksOf)

const names = ['--color-act', '--color-act-soft', '--color-on-act', '--color-bar']

/** How times are written on the page, which has to be known before any is. */
export function writeTimesAs({ clock12 }: Looks): void {
  showTwelve(clock12 ?? false)
}

/** A colour's tones for the ground that the device wants, by the names they have in styles; none without a colour. */
export function tonesOf({ light, dark }: Pick<Looks, 'light' | 'dark'>): Record<string, string> {
  const chosen = matchMedia('(prefers-color-scheme: dark)').matches ? dark : light
  const values = chosen ? [chosen.act, chosen.soft, chosen.on, chosen.bar] : []
  return Object.fromEntries(values.map((value, i) => [names[i], value]))
}

/** Paints the page in the workspace's colour, or in the type's. */
export function paint(looks: Looks): void {
  const { style } = document.documentElement
  const tones = tonesOf(looks)
  for (const name of names) {
    if (tones[name]) style.setProperty(name, tones[name])
    else style.removeProperty(name) // the first drawing may have set it
  }
}

/** The looks to show: those that came with the page, or, in a frame of the host's application, those tried there. */
export function useShownLooks(came: Looks | undefined): Looks {
  const [tried, setTried] = useState<Looks | null>(null)
  const shown = useMemo(
    () => (tried && came?.own ? { ...tried, light: came.light, dark: came.dark } : (tried ?? came)),
    [tried, came],
  )
  useEffect(() => {
    const hear = (event: MessageEvent) => {
      if (event.origin === location.origin && event.source === parent && event.data?.looks) setTried(event.data.looks)
    }
    addEventListener('message', hear)
    if (parent !== window && !embedded) parent.postMessage({ ready: true }, location.origin)
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
