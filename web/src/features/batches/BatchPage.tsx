import '../../shared/text/laterWords'

import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import { useParams } from 'react-router'

import { whenOf } from '../../shared/clock'
import { NumberPad } from '../../shared/parts/NumberPad'
import type { PadTarget } from '../../shared/parts/usePad'
import { PageBar } from '../../shared/parts/PageBar'
import { ProblemLine } from '../../shared/parts/ProblemLine'
import { Waiting } from '../../shared/parts/Waiting'
import { useAway } from '../../shared/reach'
import { useRole } from '../../shared/session'
import { useUnits } from '../../shared/units'
import { type Batch, useBatch } from './api'
import { Amounts } from './Amounts'
import { BatchChart } from './BatchChart'
import { BatchSheet } from './BatchSheet'
import { CheckList } from './CheckList'
import { Deviations } from './Deviations'
import { Family, UseBy } from './Family'
import { LabelButton } from './LabelDialog'
import { LimitList } from './LimitList'
import { NextStep } from './NextStep'
import { Probes } from './Probes'
import { Readings } from './Readings'
import { Review } from './Review'
import { Standing } from './Standing'
import { Traces } from './Traces'
import { useTouched } from './touched'
import { useFresh } from '../../shared/useFresh'
import { valueOf } from '../../shared/quantities'

const FRESH_MS = 1_000 // older than this when it is opened, it is asked for first

export function BatchPage() {
  const { batchId = '' } = useParams()
  const { t } = useTranslation()
  const query = useBatch(batchId)
  const { mayLog } = useRole()
  useUnits() // the masses and doubts below follow the units
  const [target, setTarget] = useState<PadTarget | null>(null)
  const away = useAway() // the page says so at its top
  const batch = useTouched(useFresh(query, FRESH_MS))
  if (!batch) return <Waiting problem={query.error} again={() => void query.refetch()} />
  const open = !batch.closed
  return (
    <>
      <PageBar
        title={`${batch.code}  ${batch.plan_name}`}
        sub={t(batch.mass_kg ? 'batch.sub' : 'batch.subPortions', {
          packs: batch.packs,
          mass: valueOf(batch.mass_kg, 'kg'),
          version: batch.plan_version,
          when: whenOf(batch.started_at),
          by: batch.started_by,
        })}
      >
        <Exports batch={batch} />
      </PageBar>
      <div className="page live">
        {query.error && away === null && <ProblemLine problem={query.error} again={() => void query.refetch()} />}
        <div className="dated">
          <UseBy batch={batch} />
          {mayLog && <LabelButton batch={batch} />}
        </div>
        <Standing batch={batch} />
        <Deviations batch={batch} onLog={open && mayLog ? setTarget : undefined} />
        <NextStep batch={batch} onLog={open && mayLog ? setTarget : undefined} />
        <BatchSheet batch={batch} />
      </div>
      <div className="page two">
        <div className="stack">
          {open && <Amounts batch={batch} />}
          <BatchChart batch={batch} />
          <LimitList batch={batch} />
          <Readings batch={batch} onCorrect={open && mayLog ? setTarget : undefined} />
          <Traces batch={batch} mayAttach={open && mayLog} />
        </div>
        <div className="stack sticky">
          <CheckList batch={batch} onLog={open && mayLog ? setTarget : undefined} />
          <Probes batch={batch} mayBind={open && mayLog} />
          <Family batch={batch} />
          <Review batch={batch} />
        </div>
      </div>
      <p className="page caution">{t('caution')}</p>
      {target && <NumberPad target={target} onClose={() => setTarget(null)} />}
    </>
  )
}

function Exports({ batch }: { batch: Batch }) {
  const { t } = useTranslation()
  return (
    <nav className="row-line exports" aria-label={t('batch.record')}>
      <span className="quiet">{t('batch.record')}</span>
      {(['pdf', 'csv', 'xlsx', 'json'] as const).map((kind) => (
        <a key={kind} className="btn btn-link" href={`/api/v1/batches/${batch.batch_id}/record.${kind}`} download>
          {t(`batch.${kind}`)}
        </a>
      ))}
    </nav>
  )
}
