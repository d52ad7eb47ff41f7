import type { Family, Question } from './api'

/** A question in the address: the number of the preset it began from, and what was changed since. */
export function addressOf(family: Family, preset: number, question: Question): string {
  const params = new URLSearchParams()
  if (preset > 0) params.set('p', String(preset + 1))
  const base = family.presets[preset]?.question ?? {}
  for (const [name, value] of Object.entries(question)) {
    if (JSON.stringify(value) !== JSON.stringify(base[name]))
      params.set(name, typeof value === 'string' ? value : JSON.stringify(value))
  }
  const text = params.toString()
  return text ? `?${text}` : ''
}

/** Read it back. What no field bears, or what does not parse, is left out. */
export function questionFrom(family: Family, search: URLSearchParams): { preset: number; question: Question } {
  const asked = Number(search.get('p') ?? '1') - 1
  const preset = family.presets[asked] ? asked : 0
  const question: Question = { ...family.presets[preset]?.question }
  for (const spec of family.fields) {
    const text = search.get(spec.name)
    if (text === null) continue
    const value = parsed(text, spec.kind)
    if (value !== undefined) question[spec.name] = value
  }
  return { preset, question }
}

function parsed(text: string, kind: string): unknown {
  if (kind === 'choice' || kind === 'words' || (kind === 'day' && text !== 'null')) return text
  try {
    const value: unknown = JSON.parse(text)
    if (kind === 'rows') return Array.isArray(value) ? value : undefined
    if (kind === 'flag') return typeof value === 'boolean' ? value : undefined
    return value === null || typeof value === 'number' ? value : undefined
  } catch {
    return undefined
  }
}
