const plain = (text: string) => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase()

/** Whether every word that was typed occurs in a text, whatever the case and the accents. */
export function fits(text: string, typed: string): boolean {
  const within = plain(text)
  return plain(typed)
    .split(/\s+/)
    .every((word) => within.includes(word))
}

/**
 * How well a name fits what was typed, 0 the best: the very name, its first words, words of it, beginnings of words,
 * and last what stands within a word ("oil" within "boiled").
 */
export function rankOf(name: string, typed: string): number {
  const [within, wanted] = [plain(name), plain(typed).trim()]
  const words = within.split(/[^\p{L}\p{N}]+/u).filter(Boolean)
  const asked = wanted.split(/[^\p{L}\p{N}]+/u).filter(Boolean)
  const same = (word: string, each: string) => word === each || word === `${each}s`
  if (words.join(' ') === asked.join(' ')) return 0
  if (asked.every((each, i) => same(words[i] ?? '', each))) return 1
  if (asked.every((each) => words.some((word) => same(word, each)))) return 2
  if (asked.every((each, i) => (words[i] ?? '').startsWith(each))) return 3
  if (asked.every((each) => words.some((word) => word.startsWith(each)))) return 4
  return 5
}

/** Those that fit, the best first, and the one that Enter may take: the very word, or the only one there is. */
export function found<T>(all: readonly T[], typed: string, nameOf: (each: T) => string, beside: (each: T) => string) {
  const shown = all
    .filter((each) => fits(`${nameOf(each)} ${beside(each)}`, typed.trim()))
    .map((each) => ({ each, rank: rankOf(nameOf(each), typed) }))
    .sort((a, b) => a.rank - b.rank)
  const [first, second] = shown
  const sure = first && (!second || (first.rank <= 1 && second.rank > first.rank) || first.rank === 0)
  return { shown: shown.map(({ each }) => each), sure: sure ? first.each : null }
}
