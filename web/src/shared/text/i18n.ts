import i18next from 'i18next'
import { initReactI18next } from 'react-i18next'

import { en } from './en'

export const LANGUAGES = { en: 'English', es: 'Español', fr: 'Français', zh: '中文' } as const
export type Language = keyof typeof LANGUAGES | 'xx'

const KEY = 'brinefrost.language'
const COMMA = new Set(['es', 'fr'])
const LOCALES: Record<string, string> = { en: 'en-GB', es: 'es', fr: 'fr', zh: 'zh-CN', xx: 'en-GB' }
const LOADERS: Record<string, () => Promise<object>> = {
  es: () => import('./es').then((m) => m.es),
  fr: () => import('./fr').then((m) => m.fr),
  zh: () => Promise.all([import('./zh'), import('@fontsource/noto-sans-sc/400.css')]).then(([m]) => m.zh),
}
const MARKS: Record<string, string> = {
  a: 'á',
  e: 'é',
  i: 'í',
  o: 'ó',
  u: 'ú',
  c: 'ç',
  n: 'ñ',
  s: 'š',
  z: 'ž',
  A: 'Á',
  E: 'É',
  I: 'Í',
  O: 'Ó',
  U: 'Ú',
}
// an amount that stands in the words themselves: [80 °C], [1 K], [2 mm]; [57 °C = 135 °F] where a code prints both
const AMOUNT = /\[(-?[\d.]+) (°C|K|mm|kg)(?: = (-?[\d.]+ °F))?\]/g

let amount: (value: number, unit: string, printed?: string) => string = (value, unit) => `${value} ${unit}`

/** How amounts within the words are written; the units say so once they are known. */
export function writeAmounts(writer: typeof amount): void {
  amount = writer
}

void i18next
  .use(initReactI18next)
  .use({
    type: 'postProcessor',
    name: 'amounts',
    process: (value: string) =>
      value.replace(AMOUNT, (_, number: string, unit: string, printed?: string) =>
        amount(Number(number), unit, printed),
      ),
  })
  .use({
    type: 'postProcessor',
    name: 'marks',
    process: (value: string) => (i18next.language === 'xx' ? marked(value) : value),
  })
  .init({
    lng: 'en',
    fallbackLng: 'en',
    resources: { en: { translation: en } },
    interpolation: {
      useRawValueToEscape: true,
      // React escapes; but a number that stands within words has the mark its language has
      escape: (value: unknown) => (typeof value === 'number' ? localNumber(String(value)) : String(value ?? '')),
    },
    postProcess: ['amounts', 'marks'],
  })

/** English with marks on it: what is not marked on a screen did not come from the words. */
function marked(text: string): string {
  return `⟦${text.replace(/[aeioucnszAEIOU]/g, (letter) => MARKS[letter] ?? letter)}⟧`
}

/** The language of this tablet: the last one somebody chose here. */
export function languageNow(): string {
  return localStorage.getItem(KEY) ?? 'en'
}

/** From now on everything is said in a language. */
export async function takeLanguage(language: string | null | undefined): Promise<void> {
  const next = language ?? 'en'
  localStorage.setItem(KEY, next)
  document.documentElement.lang = next === 'xx' ? 'en' : next
  const load = LOADERS[next]
  if (load && !i18next.hasResourceBundle(next, 'translation'))
    i18next.addResourceBundle(next, 'translation', await load())
  if (i18next.language !== next) await i18next.changeLanguage(next)
}

/** A number written with the decimal mark of the language. */
export function localNumber(text: string): string {
  return COMMA.has(i18next.language) ? text.replace('.', ',') : text
}

/** The language's way with dates and grouped digits. */
export function locale(): string {
  return LOCALES[i18next.language] ?? 'en-GB'
}

export default i18next
