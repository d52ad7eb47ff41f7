import { afterEach, describe, expect, it, vi } from 'vitest'

import { bench } from './bench.en'
import { es } from './es'
import { fr } from './fr'
import { office } from './office.en'
import { pass } from './pass.en'
import { fixed, valueOf } from '../quantities'
import i18n, { localNumber, takeLanguage } from './i18n'
import { zh } from './zh'

type Tree = { [key: string]: string | Tree }

function flat(tree: Tree, before = ''): Record<string, string> {
  return Object.fromEntries(
    Object.entries(tree).flatMap(([key, value]) =>
      typeof value === 'string' ? [[before + key, value]] : Object.entries(flat(value, `${before}${key}.`)),
    ),
  )
}

const slots = (text: string) => [...text.matchAll(/\{\{(\w+)\}\}|\[[^\]]+\]/g)].map((match) => match[0]).sort()
const english = flat({ ...pass, ...office, bench } as unknown as Tree)

describe.each([
  ['es', es],
  ['fr', fr],
  ['zh', zh],
])('%s', (_, words) => {
  const mine = flat(words as unknown as Tree)

  it('has a word for every one of the English', () => {
    expect(Object.keys(english).filter((key) => mine[key] === undefined)).toEqual([])
  })

  it('has the parameters of the English', () => {
    for (const [key, text] of Object.entries(mine)) expect([key, slots(text)]).toEqual([key, slots(english[key] ?? '')])
  })

  it('says what English says in other words', () => {
    const same = Object.entries(mine).filter(
      ([key, text]) => text === english[key] && /[a-z]{4,}/i.test(text.replace(/\{\{\w+\}\}/g, '')),
    )
    expect(
      same
        .map(([key]) => key)
        .filter(
          (key) =>
            ![
              'batch.plan',
              'batch.xlsx',
              'pad.instrument',
              'batch.instrument',
              'pad.note',
              'places.plans',
              'batch.source',
              'trace.dates',
              'chart.surface',
              'batch.json',
              'plans.title',
              'plans.validation',
              'bench.fields.programme',
              'bench.fields.kind',
              'bench.fields.glucose_percent',
              'bench.fields.nitrite_ppm',
              'bench.fields.altitude_m',
              'bench.options.bonito',
              'bench.options.escolar',
              'bench.options.listeria',
              'bench.options.kimchi',
            ].includes(key),
        ),
    ).toEqual([])
  })
})

describe('a language', () => {
  afterEach(async () => {
    await takeLanguage('en')
    vi.unstubAllGlobals()
  })

  it('is taken on every page', async () => {
    vi.stubGlobal('localStorage', { getItem: () => null, setItem: () => undefined, removeItem: () => undefined })
    vi.stubGlobal('document', { documentElement: { lang: '' } })
    await takeLanguage('fr')
    expect([fixed(3.5, 2), valueOf(3.53, 'pH'), valueOf(62.8, '°C')]).toEqual(['3,50', 'pH 3,53', '62,8 °C'])
    expect(i18n.t('named', { name: 'Bain', said: null })).toBe('Bain : ')
    expect(i18n.t('plans.variesFails', { share: 1.5, error: 0.2 })).toContain('Échoue dans 1,5')
    expect(i18n.t('bench.options.line')).toBe('La limite de la règle')
    expect(i18n.t('pad.save')).toBe('Saisir')
    expect(i18n.t('plans.title')).toBe('Plans')
    expect(localNumber('4.6')).toBe('4,6')
    await takeLanguage('xx')
    expect(i18n.t('pad.save')).toBe('⟦Lóg ít⟧')
    expect(localNumber('4.6')).toBe('4.6')
  })
})
