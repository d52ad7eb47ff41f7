import type { Column } from './SheetView'

/** How a line's way leads through an empty cell: along, round the corner and down or up, or straight down or up. */
export type ViaShape =
  'along' | 'turns-down' | 'turns-up' | 'joins-down' | 'joins-up' | 'down' | 'up' | 'begins-down' | 'begins-up'

export interface CardRow {
  line: string
  goesIn: string[]
  into: string | null
  via: (ViaShape | undefined)[]
}

/** A sheet's cards in rows, a line each: one that is taken stands above its taker, one that leaves the dish below. */
export function cardRows(columns: readonly Column[]): CardRow[] {
  const lines = ordered(columns)
  const place = new Map(lines.map((line, row) => [line, row]))
  const rows = lines.map((line) => ({
    line,
    goesIn: columns.filter((column) => column.line === line).flatMap((column) => column.goes_in),
    into: columns.find((column) => column.takes.includes(line))?.name ?? null,
    via: columns.map((): ViaShape | undefined => undefined),
  }))
  lines.forEach((line, row) => {
    const to = columns.findIndex((column) => column.takes.includes(line))
    const last = columns.findLastIndex((column) => column.line === line)
    const end = place.get(columns[to]?.line ?? '')
    if (to >= 0 && end !== undefined) draw(rows, row, end, last, to)
    const first = columns.findIndex((column) => column.line === line)
    const from = columns.findIndex((column) => column.step === columns[first]?.out_of)
    const begin = place.get(columns[from]?.line ?? '')
    if (from >= 0 && begin !== undefined) branch(rows, begin, row, from, first)
  })
  return rows
}

/** Along the row of a line, round above its taker, and through the rows between. */
function draw(rows: CardRow[], row: number, end: number, last: number, to: number) {
  const way = end > row ? 'down' : 'up'
  const here = rows[row]
  if (!here) return
  for (let column = last + 1; column < to; column += 1) here.via[column] ??= 'along'
  here.via[to] = here.via[to] === way ? `joins-${way}` : `turns-${way}`
  for (let between = Math.min(row, end) + 1; between < Math.max(row, end); between += 1) {
    const passed = rows[between]
    if (passed) passed.via[to] = joined(passed.via[to], way)
  }
}

const joined = (there: ViaShape | undefined, way: 'down' | 'up'): ViaShape =>
  there === `turns-${way}` || there === `joins-${way}` ? `joins-${way}` : (there ?? way)

/** Out of a card, through the rows between, and along to the first card of the line that begins there. */
function branch(rows: CardRow[], begin: number, row: number, from: number, first: number) {
  const way = row > begin ? 'down' : 'up'
  for (let between = Math.min(row, begin) + 1; between < Math.max(row, begin); between += 1) {
    const passed = rows[between]
    if (passed) passed.via[from] ??= way
  }
  const here = rows[row]
  if (!here) return
  here.via[from] = `begins-${way}`
  for (let column = from + 1; column < first; column += 1) here.via[column] ??= 'along'
}

/** Lines that are taken above what takes them, then what is left, what leaves the dish last. */
function ordered(columns: readonly Column[]): string[] {
  const lines = [...new Set(columns.map((column) => column.line))]
  const placed: string[] = []
  const put = (line: string) => {
    if (placed.includes(line)) return
    for (const column of columns.filter((each) => each.line === line)) column.takes.forEach(put)
    placed.push(line)
  }
  if (lines.includes('')) put('')
  lines.forEach(put)
  return placed
}
