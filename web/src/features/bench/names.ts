import { useTranslation } from 'react-i18next'

import { useUnits } from '../../shared/units'

/** What fields, choices and figures are called: a family's own word first, then the common one. */
export function useNames(family: string) {
  const { t, i18n } = useTranslation()
  const { words } = useUnits()
  const first = (keys: string[], fallback: string) => {
    const key = keys.find((each) => i18n.exists(each))
    return key ? (t(key as never) as string) : fallback
  }
  return {
    field: (name: string) => first([`bench.own.${family}.${name}`, `bench.fields.${name}`], name),
    option: (name: string, value: string) =>
      plain(value) === 'celsius'
        ? value
        : words(
            first(
              [`bench.options.${name}_${plain(value)}`, `bench.options.${plain(value)}`, `choices.${value}`],
              value,
            ),
          ),
    figure: (name: string) => first([`bench.figures.${name}`], name),
    picture: (title: string) => first([`bench.pictures.${title}`], title),
  }
}

/** Choices with marks that keys cannot bear. */
function plain(value: string): string {
  return value.replace(/[.\s]/g, '_').replace('°C', 'celsius').replace('%', 'percent')
}
