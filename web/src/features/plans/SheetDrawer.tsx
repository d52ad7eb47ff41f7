import { type ReactNode, useEffect, useRef } from 'react'
import { Button } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { BenchLinks } from '../../shared/parts/BenchLinks'
import { StateMark } from '../../shared/parts/StateMark'
import { WorkingFold } from '../../shared/parts/WorkingView'
import type { Reference } from '../../shared/reference'
import { useUnits } from '../../shared/units'
import type { Sheet } from '../sheet'
import { lengthOf } from '../../shared/clock'
import { useAsked, useProof } from './api'
import { ControlSheet } from './ControlsTab'
import { HazardLine } from './HazardsTab'
import { Dish } from './Dish'
import { planned } from './planned'
import { RuleSets } from './RuleSets'
import { StepSheet } from './StepSheet'
import type { Draft } from './useDraft'

interface Props {
  draft: Draft
  reference: Reference
  planId: string
  sheet: Sheet
  at: string
  onOpen: (at: string | null) => void
}

/** What belongs to the cell that was touched: form, decision, working, source, other schools. Escape shuts it. */
export function SheetDrawer(props: Props) {
  const { t } = useTranslation()
  const { at, onOpen, sheet, draft } = props
  const panel = useRef<HTMLElement>(null)
  const [step, part, key] = at.split(':')
  const column = sheet.columns.find((each) => each.step === step)
  // a step just added has no column before the next proof; its card is there at once
  const written = draft.plan.steps.find((each) => each.id === step)
  const name = column?.name ?? written?.name
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.key !== 'Escape' || document.querySelector('.modal.show')) return
      onOpen(null)
      document.querySelector<HTMLElement>('.sh [tabindex="0"]')?.focus()
    }
    window.addEventListener('keydown', press)
    return () => window.removeEventListener('keydown', press)
  }, [onOpen])
  return (
    <aside className="drawer" ref={panel} aria-label={name ?? t('sheet.dish')}>
      <div className="drawer-bar">
        <h2 className="mb-0">{at === 'dish' ? t('sheet.dish') : name}</h2>
        <Button variant="link" className="push" onClick={() => onOpen(null)}>
          {t('sheet.close')}
        </Button>
      </div>
      {at === 'dish' && <DishPart {...props} />}
      {written && part === 'card' && <CardPart {...props} step={written.id} />}
      {column && part === 'hazard' && key && <HazardPart {...props} step={column.step} hazard={key} />}
      {column && part === 'limits' && <LimitsPart {...props} step={column.step} />}
      {column && part === 'checks' && <ChecksPart {...props} step={column.step} />}
    </aside>
  )
}

function DishPart({ draft, reference }: Props) {
  return (
    <>
      <Dish draft={draft} reference={reference} />
      <RuleSets
        plan={draft.plan}
        reference={reference}
        onPick={(rules) => draft.change({ rule_set: rules, controls: [] })}
      />
    </>
  )
}

function CardPart({ draft, reference, sheet, step, onOpen }: Props & { step: string }) {
  const found = draft.plan.steps.find((each) => each.id === step)
  const findings = sheet.columns.find((column) => column.step === step)?.findings ?? []
  const { words } = useUnits()
  if (!found) return null
  return (
    <>
      {findings.map((said) => (
        <p key={said} className="hot">
          {words(said)}
        </p>
      ))}
      <StepSheet draft={draft} reference={reference} step={found} onChoose={(id) => onOpen(id ? `${id}:card` : null)} />
    </>
  )
}

function HazardPart({ draft, reference, sheet, step, hazard: key }: Props & { step: string; hazard: string }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const hazard = draft.plan.hazards.find((each) => each.key === key)
  const row = sheet.rows.find((each) => each.key === key)
  const cell = row?.cells.find((each) => each.step === step)
  if (!row) return null
  return (
    <section className="sheet">
      <p className="drawer-figure">
        {cell?.said} {cell?.amount}
      </p>
      {row.balance && <p className="quiet mb-0">{t('sheet.whole', { balance: row.balance })}</p>}
      {row.working && <WorkingFold working={row.working} />}
      {hazard ? (
        <HazardLine hazard={hazard} draft={draft} reference={reference} only={step} />
      ) : (
        <p>{words(row.reason)}</p>
      )}
      {row.type === 'biological' && <p className="quiet small mb-0">{t('sheet.estimate')}</p>}
    </section>
  )
}

function LimitsPart({ draft, reference, planId, sheet, step }: Props & { step: string }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const proof = useProof(planId, draft.plan)
  const asked = useAsked(planId, draft.plan)
  const limits = proof.data?.limits.filter((each) => each.step === step) ?? []
  const schools = proof.data?.schools.filter((each) => each.step === step) ?? []
  const column = sheet.columns.find((each) => each.step === step)
  return (
    <>
      <section className="sheet">
        <ul className="limits">
          {limits.map((each) => (
            <li key={each.limit.id} className="pb-2">
              <StateMark state={planned(each.verdict.state)} />
              <p className="strong mb-0">{each.title}</p>
              <p className="mb-0">
                {words(each.verdict.sentence)}
                {each.time_to_meet_s ? ` ${t('plans.timeToMeet', { time: lengthOf(each.time_to_meet_s) })}` : ''}
              </p>
              <WorkingFold working={each.verdict.working} />
            </li>
          ))}
        </ul>
        {column?.limits.length === 0 && <p className="quiet mb-0">{t('sheet.noLimits')}</p>}
        {column?.standing === 'fails' && <Remedies remedies={proof.data?.remedies ?? []} />}
      </section>
      <Control draft={draft} reference={reference} step={step} />
      {schools.length > 0 && (
        <section className="sheet">
          <h2>{t('plans.schools')}</h2>
          <ul className="limits">
            {schools.map((school) => (
              <li key={school.rule_set + school.school} className="pb-2">
                <StateMark state={planned(school.verdict.state)} />
                <p className="strong mb-0">
                  {school.rule_set.toUpperCase()}: {words(school.title)}
                </p>
                <p className="mb-0">{words(school.verdict.sentence)}</p>
              </li>
            ))}
          </ul>
        </section>
      )}
      <BenchLinks asked={asked.data ?? []} />
    </>
  )
}

function Remedies({ remedies }: { remedies: readonly string[] }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  if (!remedies.length) return null
  return (
    <>
      <h3 className="mt-3">{t('plans.wouldPass')}</h3>
      <ul className="needs">
        {remedies.map((remedy) => (
          <li key={remedy}>{words(remedy)}</li>
        ))}
      </ul>
    </>
  )
}

function ChecksPart({ draft, reference, sheet, step }: Props & { step: string }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const checks = sheet.columns.find((each) => each.step === step)?.checks ?? []
  const control: ReactNode = <Control draft={draft} reference={reference} step={step} />
  return draft.plan.controls.some((each) => each.step === step) ? (
    control
  ) : (
    <section className="sheet">
      {checks.map((check) => (
        <p key={check.what} className="mb-1">
          {words(check.what)}
        </p>
      ))}
      <p className="quiet mb-0">{t('sheet.usualChecks')}</p>
    </section>
  )
}

function Control({ draft, reference, step }: { draft: Draft; reference: Reference; step: string }) {
  const control = draft.plan.controls.find((each) => each.step === step)
  if (!control) return null
  return <ControlSheet control={control} draft={draft} reference={reference} />
}
