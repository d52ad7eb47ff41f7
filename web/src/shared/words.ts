import { useQuery } from '@tanstack/react-query'
import { useEffect } from 'react'

import { answered, client } from './client/client'

let dictionary: Record<string, string> = {}
let age = 0
const listeners = new Set<() => void>()

/** Which dictionary holds: it counts up with every new one. */
export function dictionaryAge(): number {
  return age
}

export function whenWordsChange(listener: () => void): () => void {
  listeners.add(listener)
  return () => listeners.delete(listener)
}

export function takeWords(found: Record<string, string>): void {
  dictionary = found
  age += 1
  listeners.forEach((listener) => listener())
}

/** A name or title that plans and catalogues keep in English, as this person reads it; their own words stay. */
export function said(text: string): string {
  return dictionary[text] ?? text
}

/** The dictionary of whoever is signed in; asked for anew when they read otherwise. */
export function useDictionary(person: string, manners: string): void {
  const found = useQuery({
    queryKey: ['words', person, manners],
    queryFn: () => answered(client.GET('/api/v1/words')),
    staleTime: Infinity,
    enabled: person !== '',
  })
  useEffect(() => {
    if (found.data) takeWords(found.data)
  }, [found.data])
}
