import { type Ref, useState } from 'react'
import { Button } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import type { Schemas } from '../../shared/client/client'
import { StateMark } from '../../shared/parts/StateMark'
import { useUnits } from '../../shared/units'

export type Row = Schemas['SheetRow']
type Cell = Row['cells'][number]

/** Rows that are shown at once: what lives, and whatever else is critical or still open. */
export function tells(row: Row): boolean {
  return row.type === 'biological' || row.cells.some((cell) => cell.critical || cell.open)
}

interface Props {
  rows: readonly Row[]
  firstRow: number
  chosen: string | null
  cellProps: (row: number, column: number) => { tabIndex: number; 'data-cell': string; ref?: Ref<HTMLButtonElement> }
  onOpen: (step: string, hazard: string) => void
  onTake?: (key: string) => void
}

/** The hazards: a row each, what happens to it in every column, and what it comes to at the end. */
export function Board({ rows, firstRow, chosen, cellProps, onOpen, onTake }: Props) {
  const { t } = useTranslation()
  const { words } = useUnits()
  return rows.map((row, index) => (
    <div role="row" className={row.taken ? 'sh-row' : 'sh-row offered'} key={row.key}>
      <div role="rowheader" className="sh-head">
        <span className={row.type === 'biological' ? 'organism' : 'strong'}>{shortName(words(row.name))}</span>
        {row.taken ? (
          <span
            className={row.standing === 'fails' || row.standing === 'not_proved' ? 'hot strong small' : 'quiet small'}
          >
            {row.standing === 'not_proved'
              ? t('sheet.standing.not_proved')
              : row.significant
                ? row.balance
                : t('sheet.setAside')}
          </span>
        ) : (
          onTake && (
            <Button size="sm" variant="link" className="take" onClick={() => onTake(row.key)}>
              {t('sheet.take')}
            </Button>
          )
        )}
      </div>
      {row.cells.map((cell, column) => (
        <div role="gridcell" className="sh-cell" key={cell.step}>
          <button
            type="button"
            {...cellProps(firstRow + index, column)}
            className={cellClass(cell, chosen === `${cell.step}:hazard:${row.key}`)}
            aria-label={spoken(row, cell, t)}
            onClick={() => onOpen(cell.step, row.key)}
          >
            <CellWords cell={cell} />
          </button>
        </div>
      ))}
    </div>
  ))
}

function cellClass(cell: Cell, chosen: boolean): string {
  const parts = ['hz', `hz-${cell.act}`]
  if (cell.critical) parts.push('ccp', cell.standing)
  if (cell.open) parts.push('open')
  if (chosen) parts.push('chosen')
  return parts.join(' ')
}

function CellWords({ cell }: { cell: Cell }) {
  const { t } = useTranslation()
  const trouble = cell.critical && (cell.standing === 'fails' || cell.standing === 'not_proved')
  return (
    <>
      <span className={cell.planned ? 'as-planned' : undefined}>{cell.open ? t('sheet.decide') : cell.said}</span>{' '}
      {trouble ? (
        <StateMark state={cell.standing === 'fails' ? 'would_fail' : 'not_measured'} bare size={18} />
      ) : (
        <span className="amount">{cell.amount}</span>
      )}
    </>
  )
}

function spoken(row: Row, cell: Cell, t: (key: string, given?: Record<string, string>) => string): string {
  const happens = [cell.open ? t('sheet.decide') : cell.said, cell.amount].filter(Boolean).join(' ')
  const parts = [happens ? t('named', { name: row.name, said: happens }) : row.name]
  if (cell.critical) parts.push(t('sheet.critical'), t(`sheet.standing.${cell.standing}`))
  return parts.filter(Boolean).join(', ')
}

/** Genera that are written out in plans and abbreviated where room is short, as is usual. */
const GENERA = /^(Listeria|Clostridium|Staphylococcus|Escherichia|Bacillus|Vibrio|Yersinia) (?=[a-z])/

export function shortName(name: string): string {
  return name.replace(GENERA, (genus) => `${genus[0]}. `)
}

export function useShown(
  rows: readonly Row[],
  live = false,
): { shown: readonly Row[]; hidden: number; all: boolean; turn: () => void } {
  const [all, setAll] = useState(false)
  // while a batch runs only what is in trouble stands open: its limits and checks are listed beneath
  const telling = rows.filter((row) => (live ? row.cells.some((cell) => cell.standing === 'fails') : tells(row)))
  return { shown: all ? rows : telling, hidden: rows.length - telling.length, all, turn: () => setAll(!all) }
}
