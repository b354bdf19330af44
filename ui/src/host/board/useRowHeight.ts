import { type RefObject, useLayoutEffect, useRef, useState } from 'react'

const [least, most] = [46, 96]
/** What lies between two rows, and below the last. */
const [between, below] = [8, 84]

/** So high, in pixels, a row is if all of them are to fill the window. */
export function useRowHeight(rows: number): [ref: RefObject<HTMLDivElement | null>, height: number] {
  const ref = useRef<HTMLDivElement>(null)
  const [height, setHeight] = useState(least)
  useLayoutEffect(() => {
    const measure = () => {
      const top = (ref.current?.getBoundingClientRect().top ?? 0) + scrollY
      const room = (innerHeight - top - below) / Math.max(1, rows) - between
      setHeight(Math.round(Math.min(most, Math.max(least, room))))
    }
    measure()
    addEventListener('resize', measure)
    return () => removeEventListener('resize', measure)
  }, [rows])
  return [ref, height]
}
