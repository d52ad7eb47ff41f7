/** Whether a field belongs to what is chosen: it is shown where every choice it names is made. */
export function applies(only: Record<string, string[]> | undefined, chosen: object): boolean {
  const made = chosen as Record<string, unknown>
  return Object.entries(only ?? {}).every(([name, values]) => values.includes(String(made[name])))
}
