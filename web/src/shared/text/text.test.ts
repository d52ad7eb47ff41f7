import { readdirSync, readFileSync, statSync } from 'node:fs'
import { join } from 'node:path'

import { describe, expect, it } from 'vitest'

import { bench } from './bench.en'
import { en } from './en'

const root = new URL('../..', import.meta.url).pathname

function sources(folder: string): string[] {
  return readdirSync(folder).flatMap((name) => {
    const path = join(folder, name)
    if (statSync(path).isDirectory()) return sources(path)
    return /\.tsx?$/.test(name) && !/\.test\.|\.gen\./.test(name) ? [path] : []
  })
}

function found(key: string): unknown {
  return key
    .split('.')
    .reduce<unknown>((at, part) => (at as Record<string, unknown> | undefined)?.[part], { ...en, bench })
}

const used = sources(root).flatMap((path) =>
  [...readFileSync(path, 'utf8').matchAll(/\bt\(\s*'([\w.]+)'/g)].map((match) => [match[1] ?? '', path] as const),
)

describe('the source', () => {
  it('has no line longer than 120 signs', () => {
    const long = sources(root).flatMap((path) =>
      readFileSync(path, 'utf8')
        .split('\n')
        .flatMap((line, i) => (line.length > 120 ? [`${path}:${i + 1}`] : [])),
    )
    expect(long).toEqual([])
  })
})

describe('the words', () => {
  it('are there for every key the code asks for', () => {
    const missing = used.filter(([key]) => typeof (found(key) ?? found(`${key}_other`)) !== 'string')
    expect(missing).toEqual([])
  })

  it('are used through keys in many places', () => {
    expect(used.length).toBeGreaterThan(150)
  })

  it('hold no exclamation marks and no praise', () => {
    const all = JSON.stringify(en)
    expect(all).not.toMatch(/!"|! |great|awesome|congrat|oops/i)
  })
})
