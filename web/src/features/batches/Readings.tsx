import { Button } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { lengthOf, timeOf, whenOf } from '../../shared/clock'
import { Fold } from '../../shared/parts/Fold'
import type { PadTarget } from '../../shared/parts/usePad'
import { useUnits } from '../../shared/units'
import type { Batch, ReadingRow } from './api'
import { useQuantities } from '../../shared/reference'
import { plusMinus } from '../../shared/quantities'

const LATE_S = 900

/** Every reading with who, when and what with; a wrong one is corrected by a later entry. */
export function Readings({ batch, onCorrect }: { batch: Batch; onCorrect: ((target: PadTarget) => void) | undefined }) {
  const { t } = useTranslation()
  const rows = [...batch.readings].reverse()
  return (
    <section className="sheet">
      {rows.length === 0 && (
        <>
          <h2>{t('batch.readings')}</h2>
          <p className="quiet mb-0">{t('batch.noReadings')}</p>
        </>
      )}
      {rows.length > 0 && (
        <Fold title={t('batch.readings')} count={rows.length} open={Boolean(batch.closed)}>
          <div className="table-responsive">
            <table className="table">
              <thead>
                <tr>
                  {(['taken', 'step', 'what', 'reading', 'instrument', 'by'] as const).map((name) => (
                    <th key={name}>{t(`batch.${name}`)}</th>
                  ))}
                  <th />
                </tr>
              </thead>
              <tbody>
                {rows.map((row) => (
                  <Row key={row.reading} row={row} batch={batch} onCorrect={onCorrect} />
                ))}
              </tbody>
            </table>
          </div>
        </Fold>
      )}
    </section>
  )
}

function Row({
  row,
  batch,
  onCorrect,
}: {
  row: ReadingRow
  batch: Batch
  onCorrect: ((target: PadTarget) => void) | undefined
}) {
  const { t } = useTranslation()
  const { temp } = useUnits()
  const { said } = useQuantities()
  const value = row.unit === '°C' ? temp(row.value) : said(row.quantity, row.value)
  const notes = [
    row.corrects ? t('batch.corrects') : '',
    row.corrected_by ? t('batch.corrected') : '',
    row.confirmed ? t('batch.confirmed') : '',
    row.entered_late_s > LATE_S ? t('batch.entered', { time: lengthOf(row.entered_late_s) }) : '',
    row.note,
  ].filter(Boolean)
  return (
    <tr className={row.corrected_by ? 'replaced' : ''}>
      <td>{whenOf(row.taken_at)}</td>
      <td>{row.step_name}</td>
      <td>{t(`quantity.${row.quantity}`)}</td>
      <td>
        <span className="strong value">{value}</span>
        {notes.length > 0 && <span className="quiet small d-block">{notes.join('; ')}</span>}
      </td>
      <td>
        {row.instrument} {row.uncertainty > 0 && plusMinus(row.uncertainty, row.unit)}
      </td>
      <td>{row.by}</td>
      <td className="text-end">
        {onCorrect && !row.corrected_by && (
          <Button
            size="sm"
            variant="link"
            onClick={() =>
              onCorrect({
                batchId: batch.batch_id,
                batchCode: batch.code,
                step: row.step,
                quantity: row.quantity as PadTarget['quantity'],
                what: t('named', {
                  name: t('batch.correct'),
                  said: `${row.step_name}, ${t(`quantity.${row.quantity}`)}`,
                }),
                corrects: { reading: row.reading, value, time: timeOf(row.taken_at), takenAt: row.taken_at },
              })
            }
          >
            {t('batch.correct')}
          </Button>
        )}
      </td>
    </tr>
  )
}
