import { useEffect, useRef, useState } from 'react'

/** How wide the window is [px], once it has settled. */
export function useWindowWidth(): number {
  const [width, setWidth] = useState(window.innerWidth)
  const waiting = useRef(0)
  useEffect(() => {
    const read = () => {
      cancelAnimationFrame(waiting.current)
      waiting.current = requestAnimationFrame(() => setWidth(window.innerWidth))
    }
    window.addEventListener('resize', read)
    return () => window.removeEventListener('resize', read)
  }, [])
  return width
}
