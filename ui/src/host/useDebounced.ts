import { useEffect, useState } from 'react'

/** The value as it was when it last stood still for a moment. */
export function useDebounced<T>(value: T, milliseconds = 150): T {
  const [still, setStill] = useState(value)
  useEffect(() => {
    const timer = setTimeout(() => setStill(value), milliseconds)
    return () => clearTimeout(timer)
  }, [value, milliseconds])
  return still
}
