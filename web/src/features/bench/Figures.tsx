import { useTranslation } from 'react-i18next'

import { LittleScale } from '../../shared/parts/LittleScale'
import { fixed, lasting, measureFor, written } from '../../shared/quantities'
import { type UnitChoice, useUnits } from '../../shared/units'
import type { Figure } from './api'
import { useNames } from './names'
import { locale } from '../../shared/text/i18n'

/** The numbers of an answer, the main ones large, each with its unit and, where there is one, its limit. */
export function Figures({ figures, family }: { figures: readonly Figure[]; family: string }) {
  const names = useNames(family)
  const { choice, words } = useUnits()
  const { t } = useTranslation()
  return (
    <dl className="figures">
      {figures.map((figure, index) => {
        const [value, unit] = partsOf(figure, choice) ?? [words(figure.absent ?? '') || t('bench.none'), '']
        const note = [
          figure.kind === 'percent' ? figure.show : '',
          figure.kind === 'words' || figure.kind === 'day' ? '' : words(figure.words ?? ''),
        ]
          .filter(Boolean)
          .join(', ')
        return (
          <div key={figure.name + String(index)} className={figure.main ? 'figure-tile main' : 'figure-tile'}>
            <dt>{names.figure(figure.name)}</dt>
            <dd>
              <span className={figure.value === null && figure.absent ? 'figure-value absent' : 'figure-value'}>
                {value}
                {unit && <small> {unit}</small>}
              </span>
              <Band figure={figure} label={`${names.figure(figure.name)} ${value} ${unit}`} />
              {note && <span className="quiet small">{note}</span>}
            </dd>
          </div>
        )
      })}
    </dl>
  )
}

function Band({ figure, label }: { figure: Figure; label: string }) {
  const { low, high, band_from: from, band_to: to } = figure
  if (low === null || low === undefined || high === null || high === undefined || from === null || from === undefined)
    return null
  return (
    <LittleScale low={low} high={high} bandFrom={from} bandTo={to ?? high} value={figure.value ?? null} label={label} />
  )
}

/** A figure as it is read, number and unit; null when there is none. */
function partsOf(figure: Figure, choice: UnitChoice): [string, string] | null {
  if (figure.kind === 'words') return figure.words ? [figure.words, ''] : null
  if (figure.kind === 'day') return figure.words ? [dated(figure.words), ''] : null
  if (figure.value === null || figure.value === undefined) return null
  if (figure.kind === 'time') return [lasting(figure.value), '']
  if (figure.kind === 'ph') return [`pH ${fixed(figure.value, 2)}`, '']
  const measure = measureFor(figure.kind, figure.show ?? '', choice)
  return [written(measure.toShown(figure.value), digitsOf(figure, measure.digits)), measure.unit]
}

/** A date as it stands on a label. */
function dated(text: string): string {
  const day = new Date(`${text}T12:00:00Z`)
  return Number.isNaN(day.getTime())
    ? text
    : day.toLocaleDateString(locale(), { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' })
}

function digitsOf(figure: Figure, most: number): number {
  const size = Math.abs(figure.value ?? 0)
  return figure.kind === 'number' ? (size >= 100 ? 0 : size >= 10 ? 1 : most) : most
}
