import { useCallback, useEffect, useRef, useState } from 'react'
import type { Schemas } from '../api/client'
import { forget, recall, remember } from './stored'

/** Somebody for whom the client takes a seat too. */
export interface Person {
  name: string
  mail: string
  said: Record<string, string[]>
}

/** What a client has typed. */
export interface Typed {
  name: string
  mail: string
  remark: string
  /** What the way of meeting needs: a phone number or an address. */
  given: string
  /** Mail addresses with commas between. */
  guests: string
  /** Who comes along, where seats can be taken for others. */
  along: Person[]
  /** On the waiting list: for whichever date gets free first. */
  any: boolean
  /** Answers to the questions, by their IDs. */
  said: Record<string, string[]>
  consent: boolean
  /** The number for text messages, and whether they are agreed to. */
  phone: string
  texts: boolean
  /** Names of files that were sent, by their tokens. */
  files: Record<string, string>
}

export const nothingTyped: Typed = {
  name: '',
  mail: '',
  remark: '',
  given: '',
  guests: '',
  along: [],
  any: false,
  said: {},
  consent: false,
  phone: '',
  texts: false,
  files: {},
}

/** Who somebody is goes with them to every page; the rest belongs to the page it was typed on. */
const who = 'typed'
const here = () => `typed:${location.pathname}`

/** Takes what changes of it; from what there is by then, where it comes late. */
export type Type = (change: Partial<Typed> | ((typed: Typed) => Partial<Typed>)) => void

/** What is typed, from what there is at first; each state is given to keep. */
export function useTyping(first: () => Typed, keep: (typed: Typed) => void): [Typed, Type] {
  const [typed, setTyped] = useState(first)
  const keeper = useRef(keep)
  const type = useCallback<Type>(
    (change) => setTyped((typed) => ({ ...typed, ...(typeof change === 'function' ? change(typed) : change) })),
    [],
  )
  useEffect(() => keeper.current(typed), [typed])
  return [typed, type]
}

/** What was typed stays for as long as the tab does, even if the page is loaded again. What a link brings comes first. */
export function useTyped(brought: Partial<Typed>): [Typed, Type] {
  return useTyping(
    () => {
      const before = { ...remembered(here()), ...remembered(who) }
      return { ...nothingTyped, ...before, ...brought, said: { ...before.said, ...brought.said } }
    },
    ({ name, mail, ...rest }) => {
      remember('tab', who, JSON.stringify({ name, mail }))
      remember('tab', here(), JSON.stringify(rest))
    },
  )
}

/** After a booking, what was typed for it is not said again with the next one: guests, a remark, an agreement are for once. */
export function forgetTyped() {
  forget('tab', here())
}

function remembered(key: string): Partial<Typed> {
  try {
    return JSON.parse(recall('tab', key) ?? '{}')
  } catch {
    return {}
  }
}

/** What a link fills in. */
export function broughtBy({ name, mail, remark, given, guests, said }: Schemas['Prepared']): Partial<Typed> {
  const brought = Object.entries({ name, mail, remark, given, guests }).filter(([, value]) => value)
  return { ...Object.fromEntries(brought), ...(Object.keys(said).length > 0 && { said }) }
}
