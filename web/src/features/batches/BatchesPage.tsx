import { useTranslation } from 'react-i18next'
import { Link } from 'react-router'

import { whenOf } from '../../shared/clock'
import { FindBar, useFound } from '../../shared/parts/FindBar'
import { PageBar } from '../../shared/parts/PageBar'
import { StateMark } from '../../shared/parts/StateMark'
import { Waiting } from '../../shared/parts/Waiting'
import { useRole } from '../../shared/session'
import { useUnits } from '../../shared/units'
import { useBatches } from './api'
import { StartBatchButton } from './StartBatch'
import { valueOf } from '../../shared/quantities'

export function BatchesPage() {
  const { t } = useTranslation()
  const { words } = useUnits()
  const batches = useBatches()
  const { mayLog } = useRole()
  const found = useFound(
    batches.data ?? [],
    (batch) => `${batch.code} ${batch.plan_name} ${batch.current ?? ''}`,
    (batch) => batch.state,
  )
  if (!batches.data) return <Waiting problem={batches.error} again={() => void batches.refetch()} />
  return (
    <>
      <PageBar title={t('batch.list')}>{mayLog && <StartBatchButton />}</PageBar>
      <div className="page">
        {batches.data.length === 0 && <p className="sheet quiet">{t('batch.listEmpty')}</p>}
        {batches.data.length > FEW && (
          <FindBar
            states={['running', 'trouble', 'closed']}
            nameOf={(state) => t(`find.${state}` as never)}
            label={t('find.batch')}
          />
        )}
        {batches.data.length > 0 && found.length === 0 && <p className="sheet quiet">{t('find.none')}</p>}
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
                <span>{batch.current ?? ''}</span>
                <span className={batch.state === 'trouble' ? 'hot strong' : ''}>{words(batch.waits_for)}</span>
              </Link>
            </li>
          ))}
        </ul>
      </div>
    </>
  )
}

const FEW = 5 // more than these are looked through
