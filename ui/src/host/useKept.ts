import { useState } from 'react'

/** What is half typed and sent by a button of its own: it stays in this window until it is sent, wherever one goes meanwhile. */
export function useKept<T extends object>(name: string, nothing: T): [value: T, set: (value: T) => void] {
  const [value, setValue] = useState<T>(() => {
    try {
      return { ...nothing, ...JSON.parse(sessionStorage.getItem(name) ?? '{}') }
    } catch {
      return nothing // what somebody else wrote there
    }
  })
  return [
    value,
    (now) => {
      if (now === nothing) sessionStorage.removeItem(name)
      else sessionStorage.setItem(name, JSON.stringify(now))
      setValue(now)
    },
  ]
}
