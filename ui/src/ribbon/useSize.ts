import { type RefObject, useEffect, useRef, useState } from 'react'

/** The size of an element in pixels, as it changes; 0 as long as it isn't known. */
export function useSize<E extends HTMLElement>(): [ref: RefObject<E | null>, width: number, height: number] {
  const ref = useRef<E>(null)
  const [{ width, height }, setSize] = useState({ width: 0, height: 0 })
  useEffect(() => {
    const element = ref.current
    if (!element || !('ResizeObserver' in window)) return
    const observer = new ResizeObserver(([entry]) =>
      setSize({ width: Math.round(entry?.contentRect.width ?? 0), height: Math.round(entry?.contentRect.height ?? 0) }),
    )
    observer.observe(element)
    return () => observer.disconnect()
  }, [])
  return [ref, width, height]
}
