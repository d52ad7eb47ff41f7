import { useRef, useState, type DragEvent } from 'react'
import { Button } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { whenOf } from '../../shared/clock'
import { useUnits } from '../../shared/units'
import type { Batch } from './api'
import { TraceDialog } from './TraceDialog'
import { plusMinus } from '../../shared/quantities'

/** Attached logger files, and the place to drop another. */
export function Traces({ batch, mayAttach }: { batch: Batch; mayAttach: boolean }) {
  const { t } = useTranslation()
  useUnits() // the masses and doubts below follow the units
  const input = useRef<HTMLInputElement>(null)
  const [file, setFile] = useState<File | null>(null)
  const [over, setOver] = useState(false)
  function drop(event: DragEvent) {
    event.preventDefault()
    setOver(false)
    setFile(event.dataTransfer.files[0] ?? null)
  }
  return (
    <section
      className={over ? 'sheet drop over' : 'sheet drop'}
      onDragOver={
        mayAttach
          ? (event) => {
              event.preventDefault()
              setOver(true)
            }
          : undefined
      }
      onDragLeave={() => setOver(false)}
      onDrop={mayAttach ? drop : undefined}
    >
      <div className="row-line">
        <h2>{t('batch.traces')}</h2>
        {mayAttach && (
          <>
            <Button variant="outline-primary" className="push" onClick={() => input.current?.click()}>
              {t('trace.choose')}
            </Button>
            <input
              ref={input}
              type="file"
              hidden
              aria-label={t('trace.choose')}
              onChange={(event) => {
                setFile(event.target.files?.[0] ?? null)
                event.target.value = ''
              }}
            />
          </>
        )}
      </div>
      {batch.traces.length === 0 && <p className="quiet mb-0">{t('batch.noTraces')}</p>}
      {batch.traces.map((trace) => (
        <div key={trace.trace} className="trace">
          <p className="strong mb-0">{t('named', { name: trace.step_name, said: trace.filename })}</p>
          <p className="quiet mb-0">
            {trace.instrument} {plusMinus(trace.uncertainty, '°C')} · {spanOf(trace)} · {trace.by}
          </p>
          <p className="quiet small mb-0">{[...trace.channels, ...trace.notes].join('; ')}</p>
        </div>
      ))}
      {file && <TraceDialog batch={batch} file={file} onClose={() => setFile(null)} />}
    </section>
  )
}

function spanOf(trace: { first_at: string; last_at: string }): string {
  return `${whenOf(trace.first_at)} – ${whenOf(trace.last_at)}`
}
