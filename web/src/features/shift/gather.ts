/** What lies together on a lane: where its first stands, how many there are, and the state that asks most. */
export interface Gathered {
  id: string
  x: number
  state: string
  count: number
}

const WORST = ['late', 'due', 'upcoming', 'done']
const MARK = 15 // px a mark takes
const NUMBER = 12 // and the number beside it

/** Marks that would lie over one another become one with their number; in order of place. */
export function gathered(marks: readonly { id: string; x: number; state: string }[]): Gathered[] {
  const found: Gathered[] = []
  for (const mark of [...marks].sort((a, b) => a.x - b.x)) {
    const last = found.at(-1)
    if (last && mark.x < last.x + MARK + (last.count > 1 ? NUMBER : 0)) {
      last.count += 1
      if (rank(mark.state) < rank(last.state)) last.state = mark.state
    } else found.push({ ...mark, count: 1 })
  }
  return found
}

function rank(state: string): number {
  const at = WORST.indexOf(state)
  return at < 0 ? WORST.length : at
}
