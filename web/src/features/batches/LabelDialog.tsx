import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { answered, client, type Schemas } from '../../shared/client/client'
import { whenOf } from '../../shared/clock'
import { FormDialog } from '../../shared/parts/FormDialog'
import { useUnits } from '../../shared/units'
import type { Batch } from './api'

type Sheet = Schemas['LabelSheet']
type Label = Schemas['Label']
const MOST = 500
const KEPT = 'brinefrost.labels' // the sheet that lies in this kitchen's printer

/** How many labels, on which sheet, from which place; what stands on them is shown before they are printed. */
export function LabelButton({ batch }: { batch: Batch }) {
  const { t } = useTranslation()
  const [open, setOpen] = useState(false)
  return (
    <>
      <Button variant="outline-primary" onClick={() => setOpen(true)}>
        {t('labels.title')}
      </Button>
      {open && <LabelDialog batch={batch} onClose={() => setOpen(false)} />}
    </>
  )
}

function LabelDialog({ batch, onClose }: { batch: Batch; onClose: () => void }) {
  const { t } = useTranslation()
  const label = useLabel(batch.batch_id)
  const sheets = useSheets()
  const [count, setCount] = useState(String(batch.packs))
  const [first, setFirst] = useState('1')
  const [key, setKey] = useState(() => localStorage.getItem(KEPT) ?? 'a4-70x37')
  const sheet = sheets.data?.find((each) => each.key === key) ?? sheets.data?.[0]
  const print = usePrint(batch)
  const places = sheet ? sheet.across * sheet.down : 1
  const said = { count: Number(count), first: places > 1 ? Number(first) : 1 }
  const sound =
    Number.isInteger(said.count) && said.count >= 1 && said.count <= MOST && said.first >= 1 && said.first <= places
  function send() {
    if (!sheet) return
    localStorage.setItem(KEPT, sheet.key)
    print.mutate({ sheet: sheet.key, ...said }, { onSuccess: onClose })
  }
  return (
    <FormDialog
      title={t('labels.of', { code: batch.code })}
      send={t('labels.print')}
      disabled={!label.data || !sheet || !sound || print.isPending}
      problem={label.error ?? sheets.error ?? print.error}
      onSend={send}
      onClose={onClose}
    >
      {label.data && <Preview label={label.data} />}
      <div className="row-line">
        <Form.Group controlId="label-count">
          <Form.Label>{t('labels.count')}</Form.Label>
          <Form.Control
            type="number"
            inputMode="numeric"
            min={1}
            max={MOST}
            value={count}
            onChange={(event) => setCount(event.target.value)}
          />
        </Form.Group>
        {places > 1 && (
          <Form.Group controlId="label-first">
            <Form.Label>{t('labels.first', { places })}</Form.Label>
            <Form.Control
              type="number"
              inputMode="numeric"
              min={1}
              max={places}
              value={first}
              onChange={(event) => setFirst(event.target.value)}
            />
          </Form.Group>
        )}
      </div>
      <Form.Group controlId="label-sheet">
        <Form.Label>{t('labels.sheet')}</Form.Label>
        <Form.Select value={sheet?.key ?? ''} onChange={(event) => setKey(event.target.value)}>
          {sheets.data?.map((each) => (
            <option key={each.key} value={each.key}>
              {nameOf(each, t(`labels.${each.paper}`, { places: each.across * each.down }))}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
    </FormDialog>
  )
}

const nameOf = (sheet: Sheet, on: string) => `${on} ${sheet.width_mm} × ${sheet.height_mm} mm`

/** What the labels will say. */
function Preview({ label }: { label: Label }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const allergens = label.allergens.map(words).join(', ')
  return (
    <div className="label-preview">
      <p className="strong">{words(label.name)}</p>
      {label.use_by && <p className="strong">{t('labels.useBy', { when: whenOf(label.use_by) })}</p>}
      {!label.use_by && label.undated && <p className="strong">{t('labels.undated', { why: words(label.undated) })}</p>}
      {!label.released && <p className="strong">{t('labels.onHold')}</p>}
      <p>
        {label.code} · {t('labels.made', { when: whenOf(label.made_at) })}
      </p>
      {label.keep.map((each) => (
        <p key={each}>{words(each)}</p>
      ))}
      <p>{allergens ? t('batch.declares', { allergens }) : t('batch.declaresNone')}</p>
      {label.told.map((each) => (
        <p key={each}>{words(each)}</p>
      ))}
    </div>
  )
}

function useLabel(batchId: string) {
  return useQuery({
    queryKey: ['batch', batchId, 'label'],
    queryFn: () =>
      answered(client.GET('/api/v1/batches/{batch_id}/label', { params: { path: { batch_id: batchId } } })),
    retry: false,
    gcTime: 0, // its date is of now
  })
}

function useSheets() {
  return useQuery({
    queryKey: ['label-sheets'],
    queryFn: () => answered(client.GET('/api/v1/label-sheets')),
    staleTime: Infinity,
  })
}

interface Printing {
  sheet: Sheet['key']
  count: number
  first: number
}

/** The labels as a file, under the batch's code. */
function usePrint(batch: Batch) {
  return useMutation({
    mutationFn: async (query: Printing) => {
      const path = { batch_id: batch.batch_id }
      const file = await answered(
        client.GET('/api/v1/batches/{batch_id}/labels.pdf', { params: { path, query }, parseAs: 'blob' }),
      )
      const link = document.createElement('a')
      link.href = URL.createObjectURL(file as Blob)
      link.download = `${batch.code}-labels.pdf`
      link.click()
      setTimeout(() => URL.revokeObjectURL(link.href), 60_000)
    },
  })
}
