import type { Plan } from './api'

export interface Merged {
  plan: Plan
  /** What the other one changed, and is taken over. */
  taken: string[]
  /** What both changed differently: here mine stands. */
  clashes: string[]
}

type Value = unknown
const LISTS: Record<string, string> = { steps: 'id', hazards: 'key', controls: 'step', ingredients: 'name' }

/**
 * Two drafts of one plan, written on the same one at the same time, put together field by field: what only one changed
 * is taken over, what both changed alike is so, what both changed differently is named.
 */
export function merged(base: Plan, mine: Plan, theirs: Plan): Merged {
  const found: Merged = { plan: mine, taken: [], clashes: [] }
  const whole: Record<string, Value> = { ...mine }
  for (const name of Object.keys(theirs)) {
    const [b, m, t] = [base, mine, theirs].map((each) => (each as unknown as Record<string, Value>)[name])
    const key = LISTS[name]
    whole[name] = key ? list(name, key, b as Item[], m as Item[], t as Item[], found) : one(name, b, m, t, found)
  }
  return { ...found, plan: whole as unknown as Plan }
}

type Item = Record<string, Value>

/** A list whose entries have a name: the order is mine unless only the other one changed it. */
function list(where: string, key: string, base: Item[], mine: Item[], theirs: Item[], found: Merged): Item[] {
  const byKey = (items: Item[]) => new Map(items.map((item) => [String(item[key]), item]))
  const [b, m, t] = [byKey(base), byKey(mine), byKey(theirs)]
  const order = same([...b.keys()], [...m.keys()]) ? [...t.keys()] : [...m.keys()]
  const kept: Item[] = []
  for (const id of new Set([...order, ...t.keys(), ...b.keys()])) {
    const [was, own, other] = [b.get(id), m.get(id), t.get(id)]
    const item = entry(`${where}/${id}`, was, own, other, found)
    if (item) kept.push(item)
  }
  return kept
}

function entry(where: string, was?: Item, own?: Item, other?: Item, found?: Merged): Item | undefined {
  if (!found) return own
  if (own && other) {
    const item: Item = { ...own }
    for (const name of new Set([...Object.keys(own), ...Object.keys(other)]))
      item[name] = one(`${where}/${name}`, was?.[name], own[name], other[name], found)
    return item
  }
  if (!own && !other) return undefined
  if (!was) {
    if (other) found.taken.push(where)
    return own ?? other // added by one of us
  }
  const left = own ?? other
  if (left && !same(left, was)) {
    found.clashes.push(where) // taken out by one, changed by the other: it stays
    return left
  }
  if (!other) found.taken.push(where)
  return undefined
}

function one(where: string, was: Value, own: Value, other: Value, found: Merged): Value {
  if (same(own, other) || same(was, other)) return own
  if (same(was, own)) {
    found.taken.push(where)
    return other
  }
  found.clashes.push(where)
  return own
}

function same(a: Value, b: Value): boolean {
  return JSON.stringify(a) === JSON.stringify(b)
}
