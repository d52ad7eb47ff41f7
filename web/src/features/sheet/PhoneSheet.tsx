import { useTranslation } from 'react-i18next'

import { lengthOf } from '../../shared/clock'
import { StateMark } from '../../shared/parts/StateMark'
import { useUnits } from '../../shared/units'
import { Journey } from './Journey'
import type { CardWords, Sheet } from './SheetView'

interface Props {
  sheet: Sheet
  card: (column: Sheet['columns'][number]) => CardWords
  at: string | null
  onOpen: (at: string) => void
  width: number
  now?: { step: string; share: number; label: string } | null
  live?: boolean
}

const HIGH_PX = 132

/** The sheet on a phone: the journey small above, then one step a line; the chosen one tells all it has. */
export function PhoneSheet({ sheet, card, at, onOpen, width, now, live = false }: Props) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const chosen = at?.split(':')[0] ?? sheet.columns.find((column) => column.standing === 'fails')?.step ?? null
  const each = Math.max(Math.floor(width / Math.max(sheet.columns.length, 1)), 8)
  return (
    <div className="ph">
      <Journey sheet={sheet} widths={sheet.columns.map(() => each)} height={HIGH_PX} chosen={chosen} small now={now} />
      <ol className="ph-steps">
        {sheet.columns.map((column, index) => {
          const said = card(column)
          const open = column.step === chosen
          return (
            <li key={column.step} className={open ? 'ph-step chosen' : 'ph-step'}>
              <button
                type="button"
                className="ph-line"
                aria-expanded={open}
                onClick={() => onOpen(`${column.step}:card`)}
              >
                <ColumnMark column={column} />
                <span className="strong">
                  {column.line && <span className="quiet small ph-line-name">{words(column.line)}</span>}
                  {column.name}
                </span>
                <span className="push quiet">{said.main}</span>
              </button>
              {open && (
                <dl className="ph-more">
                  <dt>{lengthOf(column.length_s)}</dt>
                  <dd>{said.rest}</dd>
                  {column.goes_in.length > 0 && (
                    <>
                      <dt>+</dt>
                      <dd>{[...column.takes, ...column.goes_in].map(words).join(', ')}</dd>
                    </>
                  )}
                  {column.limits.map((limit) => (
                    <PhoneLine
                      key={limit.id}
                      name={limit.title}
                      said={limit.room || limit.sentence}
                      hot={limit.standing === 'fails' || limit.standing === 'not_proved'}
                      onOpen={() => onOpen(`${column.step}:limits`)}
                    />
                  ))}
                  {sheet.rows
                    .map((row) => ({ row, cell: row.cells[index] }))
                    .filter(({ cell }) => cell && (live ? cell.standing === 'fails' : cell.said || cell.open))
                    .map(({ row, cell }) => (
                      <PhoneLine
                        key={row.key}
                        name={words(row.name)}
                        said={`${cell?.open ? t('sheet.decide') : cell?.said} ${cell?.amount ?? ''}`}
                        hot={cell?.standing === 'fails'}
                        onOpen={() => onOpen(`${column.step}:hazard:${row.key}`)}
                      />
                    ))}
                </dl>
              )}
            </li>
          )
        })}
      </ol>
    </div>
  )
}

/** What was measured is met or not met; what is ahead is predicted; a step that answers to no limit bears no mark. */
function ColumnMark({ column }: { column: Sheet['columns'][number] }) {
  const { state, standing } = column
  const over = state === 'done' || state === 'running'
  if (standing === 'none') return <span className="ph-unmarked" />
  if (standing === 'not_proved') return <StateMark state="not_measured" bare />
  if (standing === 'fails') return <StateMark state={over ? 'fail' : 'would_fail'} bare />
  return <StateMark state={state === 'done' ? 'pass' : over ? 'pending' : 'would_meet'} bare />
}

function PhoneLine({ name, said, hot, onOpen }: { name: string; said: string; hot: boolean; onOpen: () => void }) {
  return (
    <>
      <dt>
        <button type="button" className="ph-name" onClick={onOpen}>
          {name}
        </button>
      </dt>
      <dd className={hot ? 'hot strong' : ''}>{said}</dd>
    </>
  )
}
