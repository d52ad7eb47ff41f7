import { readdirSync, readFileSync, statSync } from 'node:fs'
import { join } from 'node:path'

import { describe, expect, it } from 'vitest'

import { bench } from './bench.en'
import { office } from './office.en'
import { pass } from './pass.en'

const root = new URL('../..', import.meta.url).pathname

function sources(folder: string): string[] {
  return readdirSync(folder).flatMap((name) => {
    const path = join(folder, name)
    if (statSync(path).isDirectory()) return sources(path)
    return /\.tsx?$/.test(name) && !/\.test\.|\.gen\./.test(name) ? [path] : []
  })
}

function found(key: string, words: object = { ...pass, ...office, bench }): unknown {
  return key.split('.').reduce<unknown>((at, part) => (at as Record<string, unknown> | undefined)?.[part], words)
}

// what a cook stands before: shift, batches, their sheet, sign-in, and the parts these are made of
const AT_THE_PASS = /features\/(batches|shift|sheet|session)\/|shared\/(parts|client)\//
const AT_THE_DESK = /Picker\.tsx$/

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

  it('are in every language where a cook stands before them', () => {
    const asked = sources(root)
      .filter((path) => AT_THE_PASS.test(path) && !AT_THE_DESK.test(path))
      .flatMap((path) => [...readFileSync(path, 'utf8').matchAll(/\bt\([^()]*?'([\w.]+)'(?:\s*:\s*'([\w.]+)')?/g)])
      .flatMap((match) => [match[1], match[2]])
      .filter((key): key is string => Boolean(key?.includes('.')))
    expect(asked.length).toBeGreaterThan(150)
    expect(asked.filter((key) => !(found(key, pass) ?? found(`${key}_other`, pass)))).toEqual([])
  })

  it('are used through keys in many places', () => {
    expect(used.length).toBeGreaterThan(150)
  })

  it('hold no exclamation marks and no praise', () => {
    const all = JSON.stringify({ ...pass, ...office, bench })
    expect(all).not.toMatch(/!"|! |great|awesome|congrat|oops/i)
  })
})
