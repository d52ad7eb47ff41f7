import '../../shared/text/laterWords'

import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'
import { Link } from 'react-router'

import { whenOf } from '../../shared/clock'
import { PageBar } from '../../shared/parts/PageBar'
import { ProblemLine } from '../../shared/parts/ProblemLine'
import { StateMark } from '../../shared/parts/StateMark'
import { Waiting } from '../../shared/parts/Waiting'
import { useUnits } from '../../shared/units'
import { addressOf } from './address'
import { type Family, type KeptAnswer, useDiscardKept, useFamilies, useKeep, useKept } from './api'

/** The way in: each family with the questions people ask of it, and what was kept. */
export function BenchPage() {
  const { t } = useTranslation()
  const { words } = useUnits()
  const families = useFamilies()
  if (!families.data) return <Waiting problem={families.error} again={() => void families.refetch()} />
  return (
    <>
      <PageBar title={t('places.bench')} sub={t('bench.sub')} />
      <div className="page stack">
        <Kept families={families.data} />
        <div className="bench-index">
          {families.data.map((family) => (
            <section className="sheet" key={family.key}>
              <h2>
                <Link to={`/bench/${family.key}`}>{t(`benchPages.${family.key}` as never)}</Link>
              </h2>
              <p className="quiet small">{t(`bench.subs.${family.key}` as never)}</p>
              <ul className="plain-links">
                {family.presets.map((preset, index) => (
                  <li key={preset.key}>
                    <Link to={`/bench/${family.key}${index ? `?p=${index + 1}` : ''}`}>{words(preset.words)}</Link>
                  </li>
                ))}
              </ul>
            </section>
          ))}
        </div>
      </div>
      <p className="page caution">{t('caution')}</p>
    </>
  )
}

function Kept({ families }: { families: readonly Family[] }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const kept = useKept()
  const discard = useDiscardKept()
  const keep = useKeep()
  const [gone, setGone] = useState<KeptAnswer | null>(null)
  if (!kept.data?.length && !gone) return null
  const putBack = (each: KeptAnswer) =>
    keep.mutate({ family: each.family, name: each.name, question: each.question }, { onSuccess: () => setGone(null) })
  return (
    <section className="sheet">
      <h2>{t('bench.kept')}</h2>
      <ProblemLine problem={discard.error ?? keep.error} />
      {gone && (
        <p className="row-line" role="status">
          {t('bench.discarded', { name: gone.name })}
          <Button variant="link" disabled={keep.isPending} onClick={() => putBack(gone)}>
            {t('bench.putBack')}
          </Button>
        </p>
      )}
      <ul className="limits">
        {kept.data?.map((each) => {
          const family = families.find((known) => known.key === each.family)
          return (
            <li key={each.id} className="kept-line">
              <StateMark state={each.state} bare size={20} />
              <div>
                <p className="strong mb-0">
                  {family ? (
                    <Link to={`/bench/${each.family}${addressOf(family, 0, each.question)}`}>{each.name}</Link>
                  ) : (
                    each.name
                  )}
                </p>
                <p className="mb-0">{words(each.sentence)}</p>
                <p className="quiet small mb-0">{t('plans.by', { by: each.by, when: whenOf(each.kept_at) })}</p>
              </div>
              <Button
                variant="link"
                className="push"
                disabled={discard.isPending}
                onClick={() => discard.mutate(each.id, { onSuccess: () => setGone(each) })}
              >
                {t('bench.discard')}
              </Button>
            </li>
          )
        })}
      </ul>
    </section>
  )
}
