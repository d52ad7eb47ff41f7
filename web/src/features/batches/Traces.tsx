import { useRef, useState, type DragEvent, type FormEvent } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { whenOf } from '../../shared/clock'
import { useUnits } from '../../shared/units'
import { ProblemLine } from '../../shared/parts/ProblemLine'
import { type Batch, useWithdrawTrace } from './api'
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
      {batch.traces.map((trace) => (
        <div key={trace.trace} className={trace.withdrawn ? 'trace withdrawn' : 'trace'}>
          <div className="row-line">
            <p className="strong mb-0">{t('named', { name: trace.step_name, said: trace.filename })}</p>
            {mayAttach && !trace.withdrawn && <Withdraw batch={batch} trace={trace.trace} />}
          </div>
          {trace.withdrawn && (
            <p className="mb-0">{t('batch.withdrawn', { by: trace.withdrawn_by, reason: trace.withdrawn })}</p>
          )}
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

/** A file of another step, batch or piece is taken back, with why; both stay on the record. */
function Withdraw({ batch, trace }: { batch: Batch; trace: string }) {
  const { t } = useTranslation()
  const withdraw = useWithdrawTrace(batch.batch_id)
  const [open, setOpen] = useState(false)
  const [reason, setReason] = useState('')
  if (!open)
    return (
      <Button variant="link" className="push fold" onClick={() => setOpen(true)}>
        {t('batch.withdraw')}
      </Button>
    )
  function submit(event: FormEvent) {
    event.preventDefault()
    withdraw.mutate({ trace, reason: reason.trim() })
  }
  return (
    <Form onSubmit={submit} className="stack tight push">
      <Form.Control
        autoFocus
        required
        aria-label={t('batch.withdrawWhy')}
        placeholder={t('batch.withdrawWhy')}
        maxLength={1000}
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      <ProblemLine problem={withdraw.error} />
      <Button type="submit" size="sm" variant="outline-primary" disabled={withdraw.isPending}>
        {t('batch.withdraw')}
      </Button>
    </Form>
  )
}

function spanOf(trace: { first_at: string; last_at: string }): string {
  return `${whenOf(trace.first_at)} – ${whenOf(trace.last_at)}`
}
