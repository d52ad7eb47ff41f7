/** Whether something was refused because a PIN opened the session: the password is asked for, over the page. */
let asked = false
const listeners = new Set<() => void>()

function set(now: boolean): void {
  asked = now
  listeners.forEach((listener) => listener())
}

export const passwordAsked = () => asked
export const askPassword = () => set(true)
export const passwordSettled = () => set(false)

export function whenPasswordAsked(listener: () => void): () => void {
  listeners.add(listener)
  return () => listeners.delete(listener)
}
