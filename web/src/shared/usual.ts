/** What was last taken on this tablet, to be offered first the next time: an instrument for a quantity, a plan. */
const KEY = 'brinefrost.usual.'

export function usual(what: string): string | null {
  return localStorage.getItem(KEY + what)
}

export function remember(what: string, id: string): void {
  localStorage.setItem(KEY + what, id)
}

/**
 * The first to offer: what was taken last where it may still be taken, else the first that may, else the first there
 * is.
 */
export function offered<Item extends { id: string }>(
  items: readonly Item[],
  what: string,
  may: (item: Item) => boolean = () => true,
): Item | undefined {
  const last = usual(what)
  const allowed = items.filter(may)
  return allowed.find((item) => item.id === last) ?? allowed[0] ?? items[0]
}
