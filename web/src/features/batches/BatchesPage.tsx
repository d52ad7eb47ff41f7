import '../../shared/text/laterWords'

import { useDeferredValue } from 'react'
import { useTranslation } from 'react-i18next'
import { Link, useNavigate } from 'react-router'

import { whenOf } from '../../shared/clock'
import { FindBar, useSought } from '../../shared/parts/FindBar'
import { MoreButton } from '../../shared/parts/MoreButton'
import { PageBar } from '../../shared/parts/PageBar'
import { StateMark } from '../../shared/parts/StateMark'
import { Waiting } from '../../shared/parts/Waiting'
import { useRole } from '../../shared/session'
import { useUnits } from '../../shared/units'
import { findBatch, useBatches } from './api'
import { StartBatchButton } from './StartBatch'
import { valueOf } from '../../shared/quantities'

export function BatchesPage() {
  const { t } = useTranslation()
  const { words } = useUnits()
  const { find, state } = useSought()
  const batches = useBatches(useDeferredValue(find), state)
  const { mayLog } = useRole()
  const sought = find !== '' || state !== ''
  const found = batches.rows
  const navigate = useNavigate()
  /** What a label's code says, or a batch's own code, opens it. */
  async function open(typed: string) {
    const [, scanned] = /\/batches\/([\w-]+)$/.exec(typed) ?? []
    const id = scanned ?? (await findBatch(typed))
    if (id) void navigate(`/batches/${id}`)
  }
  if (!found) return <Waiting problem={batches.error} again={() => void batches.refetch()} />
  return (
    <>
      <PageBar title={t('batch.list')}>{mayLog && <StartBatchButton />}</PageBar>
      <div className="page">
        {found.length === 0 && !sought && <p className="sheet quiet">{t('batch.listEmpty')}</p>}
        {(found.length > FEW || sought) && (
          <FindBar
            states={['running', 'trouble', 'closed']}
            nameOf={(state) => t(`find.${state}` as never)}
            label={t('find.batch')}
            onEnter={(typed) => void open(typed)}
          />
        )}
        {found.length === 0 && sought && <p className="sheet quiet">{t('find.none')}</p>}
        <ul className="plain-list">
          {found.map((batch) => (
            <li key={batch.batch_id}>
              <Link to={`/batches/${batch.batch_id}`} className="list-line">
                <StateMark
                  state={batch.state === 'trouble' ? 'fail' : batch.state === 'closed' ? 'done' : 'due'}
                  bare
                  size={22}
                />
                <span className="strong code">{batch.code}</span>
                <span className="strong">{batch.plan_name}</span>
                <span className="quiet">
                  {t(batch.mass_kg ? 'shift.bags' : 'shift.portions', {
                    packs: batch.packs,
                    mass: valueOf(batch.mass_kg, 'kg'),
                  })}
                </span>
                <span className="quiet">{whenOf(batch.started_at)}</span>
                <span>
                  {batch.current ?? ''}
                  {batch.gone_by && batch.state !== 'closed' && (
                    <span className="quiet small d-block">{t('batch.goneBy', { when: whenOf(batch.gone_by) })}</span>
                  )}
                </span>
                <span className={batch.state === 'trouble' ? 'hot strong' : ''}>{words(batch.waits_for)}</span>
              </Link>
            </li>
          ))}
        </ul>
        <MoreButton pages={batches} />
      </div>
    </>
  )
}

const FEW = 5 // more than these are looked through
