import { useRef, useState, type ChangeEvent } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { ProblemLine } from '../../shared/parts/ProblemLine'
import { useUnits } from '../../shared/units'
import { type FieldSpec, type Row, useRowsFromFile } from './api'

/** Fill rows from a logger file; say what was taken, offer the other channels, and the way back. */
export function FromFile({
  family,
  spec,
  rows,
  onChange,
}: {
  family: string
  spec: FieldSpec
  rows: Row[]
  onChange: (rows: Row[]) => void
}) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const input = useRef<HTMLInputElement>(null)
  const [file, setFile] = useState<File | null>(null)
  const [before, setBefore] = useState<Row[] | null>(null)
  const read = useRowsFromFile(family, spec.name)
  const taken = read.data
  function take(chosen: File, channel: string | null) {
    setBefore(before ?? rows)
    read.mutate({ file: chosen, channel }, { onSuccess: (found) => onChange([...found.rows]) })
  }
  function choose(event: ChangeEvent<HTMLInputElement>) {
    const chosen = event.target.files?.[0] ?? null
    event.target.value = ''
    setFile(chosen)
    if (chosen) take(chosen, null)
  }
  function back() {
    if (before) onChange(before)
    setBefore(null)
    setFile(null)
    read.reset()
  }
  return (
    <div className="from-file no-print">
      <Button variant="link" disabled={read.isPending} onClick={() => input.current?.click()}>
        {read.isPending ? t('trace.reading') : t('bench.fromFile')}
      </Button>
      <input ref={input} type="file" hidden aria-label={t('bench.fromFile')} onChange={choose} />
      <ProblemLine problem={read.error} />
      {taken && file && (
        <div role="status" className="from-file-said">
          <p className="mb-1">
            {t('bench.tookRows', {
              count: taken.rows.length,
              read: taken.read,
              channel: taken.channel,
              name: file.name,
            })}
            {taken.left_out > 0 ? ` ${t('bench.leftOut', { count: taken.left_out })}` : ''}
          </p>
          {taken.doubts.map((doubt) => (
            <p key={doubt} className="mb-1">
              {words(doubt)} <span className="check-this">{t('trace.check')}</span>
            </p>
          ))}
          {taken.channels.length > 1 && (
            <Form.Group controlId={`${spec.name}-channel`}>
              <Form.Label>{t('trace.channel')}</Form.Label>
              <Form.Select value={taken.channel} onChange={(event) => take(file, event.target.value)}>
                {taken.channels.map((name) => (
                  <option key={name} value={name}>
                    {name}
                  </option>
                ))}
              </Form.Select>
            </Form.Group>
          )}
          <Button variant="link" onClick={back}>
            {t('bench.rowsBack')}
          </Button>
        </div>
      )}
    </div>
  )
}
