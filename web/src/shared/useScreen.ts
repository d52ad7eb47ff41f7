import { useEffect, useRef, useState } from 'react'

/** Narrower than this, or lower as a phone held sideways, a sheet has one column at a time. */
const PHONE_PX = 700
const SIDEWAYS_PX = 480

function read() {
  const { innerWidth: width, innerHeight: height } = window
  return { width, phone: width < PHONE_PX || height < SIDEWAYS_PX }
}

/** How wide the window is [px], once it has settled, and whether it is a phone's. */
export function useScreen() {
  const [screen, setScreen] = useState(read)
  const waiting = useRef(0)
  useEffect(() => {
    const settle = () => {
      cancelAnimationFrame(waiting.current)
      waiting.current = requestAnimationFrame(() => setScreen(read()))
    }
    window.addEventListener('resize', settle)
    return () => window.removeEventListener('resize', settle)
  }, [])
  return screen
}
