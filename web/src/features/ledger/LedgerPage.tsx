import '../../shared/text/laterWords'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'
import { Link } from 'react-router'

import { answered, client, type Schemas } from '../../shared/client/client'
import { usePaged } from '../../shared/client/paged'
import { whenOf } from '../../shared/clock'
import { MoreButton } from '../../shared/parts/MoreButton'
import { PageBar } from '../../shared/parts/PageBar'
import { ProblemLine } from '../../shared/parts/ProblemLine'
import { StateMark } from '../../shared/parts/StateMark'
import { useLastCheck } from '../../shared/ledgerEnd'
import { useSession } from '../../shared/session'
import { useUnits } from '../../shared/units'
import { LedgerFilters, NOTHING, saidOf } from './LedgerFilters'

export function LedgerPage() {
  const { t } = useTranslation()
  const [asked, setAsked] = useState(NOTHING)
  const [access, setAccess] = useState(false)
  const records = usePaged(['ledger', asked, String(access)], (after) =>
    answered(client.GET('/api/v1/ledger', { params: { query: { ...saidOf(asked), after, access } } })),
  )
  const integrity = useQuery({
    queryKey: ['integrity'],
    queryFn: () => answered(client.GET('/api/v1/ledger/integrity')),
    enabled: false,
  })
  const last = useLastCheck(useSession().data?.person?.id).data?.found
  const rows = records.rows ?? []
  const broken = new Set(integrity.data?.broken.map((each) => each.seq))
  return (
    <>
      <PageBar title={t('ledger.title')}>
        <Button disabled={integrity.isFetching} onClick={() => void integrity.refetch()}>
          {integrity.isFetching ? t('ledger.checking') : t('ledger.check')}
        </Button>
      </PageBar>
      <div className="page stack">
        <ProblemLine problem={integrity.error ?? records.error} again={() => void records.refetch()} />
        {integrity.data ? <IntegrityView found={integrity.data} /> : last && <LastCheck found={last} />}
        <Form.Control
          type="search"
          aria-label={t('ledger.search')}
          placeholder={t('ledger.search')}
          value={asked.find}
          onChange={(event) => setAsked({ ...asked, find: event.target.value })}
        />
        <LedgerFilters asked={asked} onAsk={setAsked} />
        <Form.Check
          id="ledger-access"
          label={t('ledger.access')}
          checked={access}
          onChange={(event) => setAccess(event.target.checked)}
        />
        {records.data && rows.length === 0 && <p className="sheet quiet">{t('ledger.none')}</p>}
        {rows.length > 0 && <Records rows={rows} broken={broken} />}
        <MoreButton pages={records} />
      </div>
    </>
  )
}

/** What the check found that runs by itself once a day: in a line where it holds. */
function LastCheck({ found }: { found: Schemas['Integrity'] }) {
  const { t } = useTranslation()
  if (!found.holds) return <IntegrityView found={found} />
  return <p className="quiet mb-0">{t('ledger.last', { when: whenOf(found.checked_at), count: found.records })}</p>
}

/** Whether the chain holds, where it ends, and where it does not. */
function IntegrityView({ found }: { found: Schemas['Integrity'] }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  return (
    <section className="sheet" aria-live="polite">
      <div className="verdict-big">
        <StateMark state={found.holds ? 'done' : 'fail'} bare size={30} />
        <div>
          <p>{t(found.holds ? 'ledger.holds' : 'ledger.broken')}</p>
          <div>{words(found.sentence)}</div>
          <div className="quiet hash">
            {t('ledger.head')}: {found.head}
          </div>
        </div>
      </div>
      {found.broken.length > 0 && (
        <ul className="blocking mt-3 mb-0">
          {found.broken.map((each) => (
            <li key={each.seq + each.sentence} className="strong">
              {t('ledger.record', { seq: each.seq })}, {each.kind}: {each.sentence}
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}

function Records({ rows, broken }: { rows: Schemas['RecordView'][]; broken: Set<number> }) {
  const { words } = useUnits()
  return (
    <ol className="plain-list">
      {rows.map((row) => (
        <li key={row.seq} className={broken.has(row.seq) ? 'ledger-line broken' : 'ledger-line'}>
          <span className="quiet">{row.seq}</span>
          <span className="quiet">{whenOf(row.recorded_at)}</span>
          <span>{words(row.kind_name)}</span>
          <span>
            <RecordLink subject={row.subject} text={row.subject_name} />
          </span>
          <span>{words(row.words)}</span>
          <span className="quiet">{row.actor}</span>
        </li>
      ))}
    </ol>
  )
}

function RecordLink({ subject, text }: { subject: string; text: string }) {
  const [kind, id] = subject.split(':')
  const place = kind === 'batch' ? `batches/${id}` : kind === 'plan' ? `plans/${id}` : 'household'
  return <Link to={`/${place}`}>{text}</Link>
}
