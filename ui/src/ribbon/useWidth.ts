import { type RefObject, useEffect, useRef, useState } from 'react'

/** The width of an element in pixels, as it changes; 0 as long as it isn't known. */
export function useWidth<E extends HTMLElement>(): [ref: RefObject<E | null>, width: number] {
  const ref = useRef<E>(null)
  const [width, setWidth] = useState(0)
  useEffect(() => {
    const element = ref.current
    if (!element || !('ResizeObserver' in window)) return
    const observer = new ResizeObserver(([entry]) => setWidth(Math.round(entry?.contentRect.width ?? 0)))
    observer.observe(element)
    return () => observer.disconnect()
  }, [])
  return [ref, width]
}
