const KEPT = 'brinefrost-kitchen'

/** The word of the kitchen this tablet stands in, where an installation has several; empty where it has one. */
export function kitchenWord(): string {
  const asked = new URLSearchParams(window.location.search).get('kitchen')
  if (asked) keepKitchenWord(asked)
  return localStorage.getItem(KEPT) ?? ''
}

export function keepKitchenWord(word: string): void {
  localStorage.setItem(KEPT, word.trim().toLowerCase().slice(0, 32))
}
