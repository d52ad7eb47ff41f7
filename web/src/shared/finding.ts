/** Whether every word that was typed occurs in a text, whatever the case and the accents. */
export function fits(text: string, typed: string): boolean {
  const plain = (each: string) => each.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase()
  const within = plain(text)
  return plain(typed)
    .split(/\s+/)
    .every((word) => within.includes(word))
}
