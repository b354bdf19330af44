import { useEffect, useState } from 'react'

const phone = '(width < 40rem)' // as sm: in the styles

/** Whether there is more room than on a phone, for what a phone doesn't show at all. */
export function useWide(): boolean {
  const [wide, setWide] = useState(() => !matchMedia(phone).matches)
  useEffect(() => {
    const asked = matchMedia(phone)
    const change = () => setWide(!asked.matches)
    asked.addEventListener('change', change)
    return () => asked.removeEventListener('change', change)
  }, [])
  return wide
}
