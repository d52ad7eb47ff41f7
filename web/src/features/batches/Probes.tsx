import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { Problem } from '../../shared/client/client'
import { whenOf } from '../../shared/clock'
import { ProblemLine } from '../../shared/parts/ProblemLine'
import { StateMark } from '../../shared/parts/StateMark'
import { useQuantities } from '../../shared/reference'
import { useUnits } from '../../shared/units'
import { type Batch, useBindProbe, useLetProbeGo, useProbeOffers } from './api'

type Probe = Batch['probes'][number]

const MARK = { measuring: 'done', silent: 'late', stuck: 'fail', moved: 'fail', waits: 'due' } as const

/** Probes that deliver by themselves: what each bound one shows, and two touches to bind another. */
export function Probes({ batch, mayBind }: { batch: Batch; mayBind: boolean }) {
  const { t } = useTranslation()
  const running = batch.running.length > 0
  if (batch.probes.length === 0 && !(mayBind && running)) return null
  return (
    <section className="sheet">
      <h2>{t('batch.probes')}</h2>
      {batch.probes.length > 0 && (
        <ul className="checks">
          {batch.probes.map((probe) => (
            <ProbeLine key={probe.binding} probe={probe} batch={batch} mayBind={mayBind} />
          ))}
        </ul>
      )}
      {mayBind && running && <Bind batch={batch} />}
    </section>
  )
}

function ProbeLine({ probe, batch, mayBind }: { probe: Probe; batch: Batch; mayBind: boolean }) {
  const { t } = useTranslation()
  const { said } = useQuantities()
  const letGo = useLetProbeGo(batch.batch_id)
  const shown = probe.value === null || probe.value === undefined ? '' : said(probe.quantity, probe.value)
  const when = probe.until
    ? t('batch.probeUntil', { since: whenOf(probe.since), until: whenOf(probe.until) })
    : t('batch.probeSince', { since: whenOf(probe.since) })
  return (
    <li>
      <StateMark state={MARK[probe.state as keyof typeof MARK]} bare size={20} />
      <div>
        <p className="strong">{probe.instrument_name}</p>
        <p className="quiet">
          {probe.step_name} · {t(`batch.probe_${probe.state}`, { when: probe.at ? whenOf(probe.at) : '' })} · {when}
        </p>
        <ProblemLine problem={letGo.error} />
        {mayBind && !probe.until && (
          <Button variant="link" disabled={letGo.isPending} onClick={() => letGo.mutate(probe.binding)}>
            {t('batch.letGo')}
          </Button>
        )}
      </div>
      <span className="strong">{shown}</span>
    </li>
  )
}

function Bind({ batch }: { batch: Batch }) {
  const { t } = useTranslation()
  const { said, info } = useQuantities()
  const { words } = useUnits()
  const [open, setOpen] = useState(false)
  const offers = useProbeOffers(batch.batch_id, open)
  const bind = useBindProbe(batch.batch_id)
  const [asked, setAsked] = useState<{ step: string; channel: string } | null>(null)
  if (!open)
    return (
      <Button variant="outline-primary" onClick={() => setOpen(true)}>
        {t('batch.bindProbe')}
      </Button>
    )
  function take(step: string, channel: string, confirmed: boolean) {
    setAsked({ step, channel })
    bind.mutate({ step, channel, confirmed }, { onSuccess: () => setOpen(false) })
  }
  const asks = bind.error instanceof Problem && bind.error.code === 'ask_first'
  return (
    <div className="stack tight" role="group" aria-label={t('batch.bindProbe')}>
      {offers.data?.length === 0 && <p className="quiet mb-0">{t('batch.noProbes')}</p>}
      {offers.data?.map((each) => (
        <Button
          key={each.step + each.channel}
          variant="outline-primary"
          className="text-start"
          disabled={bind.isPending}
          onClick={() => take(each.step, each.channel, false)}
        >
          {each.name} · {words(each.step_name)} ·{' '}
          {each.value === null || each.value === undefined
            ? (info(each.quantity)?.noun ?? each.quantity)
            : said(each.quantity, each.value)}
        </Button>
      ))}
      <ProblemLine problem={bind.error ?? offers.error} />
      {asks && asked && (
        <div>
          <Button disabled={bind.isPending} onClick={() => take(asked.step, asked.channel, true)}>
            {t('batch.bindAllTheSame')}
          </Button>
        </div>
      )}
      <div>
        <Button variant="link" onClick={() => setOpen(false)}>
          {t('batch.notNow')}
        </Button>
      </div>
    </div>
  )
}
