import '../../shared/text/laterWords'

import { useEffect } from 'react'
import { Button } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'
import { useParams, useSearchParams } from 'react-router'

import { PageBar } from '../../shared/parts/PageBar'
import { ProblemLine } from '../../shared/parts/ProblemLine'
import { Tabs } from '../../shared/parts/Tabs'
import { Waiting } from '../../shared/parts/Waiting'
import { useRole } from '../../shared/session'
import { isCurrent } from '../../shared/standing'
import { useUnits } from '../../shared/units'
import { type Reference, usePlanReference } from '../../shared/reference'
import { type PlanView, usePlan, useReturnPlan } from './api'
import { ControlsTab } from './ControlsTab'
import { HazardsTab } from './HazardsTab'
import { PlanSheet } from './PlanSheet'
import { ProofTab } from './ProofTab'
import { SignTab } from './SignTab'
import { type Draft, useDraft } from './useDraft'
import { ValidationTab } from './ValidationTab'
import { Standing, useMayWrite } from './writing'

const TABS = ['sheet', 'hazards', 'controls', 'proof', 'validation', 'sign'] as const
type Tab = (typeof TABS)[number]

export function PlanPage() {
  const { planId = '' } = useParams()
  const plan = usePlan(planId)
  const reference = usePlanReference()
  if (!plan.data || !reference.data)
    return <Waiting problem={plan.error ?? reference.error} again={() => void plan.refetch()} />
  return (
    <Standing value={isCurrent(plan.data)}>
      <Editor key={planId} view={plan.data} reference={reference.data} />
    </Standing>
  )
}

function Editor({ view, reference }: { view: PlanView; reference: Reference }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const mayWrite = useMayWrite()
  const draft = useDraft(view, mayWrite)
  const [search, setSearch] = useSearchParams()
  const tab = TABS.find((each) => each === search.get('tab')) ?? 'sheet'
  const setTab = (next: Tab) => setSearch(next === 'sheet' ? {} : { tab: next })
  const { plan, saved } = draft
  const last = saved.versions.at(-1)
  const rules = reference.rule_sets.find((each) => each.id === plan.rule_set)
  const standing = !mayWrite
    ? t('plans.readOnly')
    : draft.saving
      ? t('loading')
      : draft.dirty
        ? t('plans.unsaved')
        : t('plans.saved')
  const version = !last
    ? t('plans.draft')
    : saved.changed_since_signed || draft.dirty
      ? t('plans.changed', { version: last.version })
      : t('plans.signed', { version: last.version })
  return (
    <>
      <PageBar
        title={plan.name}
        sub={`${version} · ${standing} · ${rules ? words(rules.name) : plan.rule_set} · ${t(`plans.${plan.guests}`)}`}
      >
        {mayWrite && <Steps draft={draft} />}
        <Button variant="outline-primary" onClick={() => setSearch({ at: 'dish' })}>
          {t('sheet.dish')}
        </Button>
        {mayWrite && saved.changed_since_signed && <Button onClick={() => setTab('sign')}>{t('sheet.sign')}</Button>}
      </PageBar>
      <div className="page">
        <PutAway view={view} />
        <Trouble draft={draft} planId={view.plan_id} />
        <Tabs tabs={TABS} chosen={tab} nameOf={(each) => t(`plans.${each}`)} onChoose={setTab}>
          {tab === 'sheet' && <PlanSheet draft={draft} reference={reference} planId={view.plan_id} />}
          {tab === 'hazards' && <HazardsTab draft={draft} reference={reference} planId={view.plan_id} />}
          {tab === 'controls' && <ControlsTab draft={draft} reference={reference} />}
          {tab === 'proof' && <ProofTab plan={plan} planId={view.plan_id} />}
          {tab === 'validation' && <ValidationTab planId={view.plan_id} signed={saved.versions.length > 0} />}
          {tab === 'sign' && <SignTab draft={draft} planId={view.plan_id} />}
        </Tabs>
        <p className="caution">
          {t('caution')} {t('plans.authority', { text: words(rules?.authority ?? '') })}
        </p>
      </div>
    </>
  )
}

/** That the plan was archived, or its draft deleted; a lead brings it back. */
function PutAway({ view }: { view: PlanView }) {
  const { t } = useTranslation()
  const { isLead } = useRole()
  const bringBack = useReturnPlan(view.plan_id)
  if (isCurrent(view)) return null
  return (
    <div className="asked mb-3" role="status">
      <p>{t(view.standing === 'deleted' ? 'plans.deletedHere' : 'plans.archivedHere')}</p>
      {isLead && (
        <Button onClick={() => bringBack.mutate(null)} disabled={bringBack.isPending}>
          {t('plans.bringBack')}
        </Button>
      )}
      <ProblemLine problem={bringBack.error} />
    </div>
  )
}

/** Back and forth over what was changed; also by Ctrl+Z and Ctrl+Shift+Z outside a field. */
function Steps({ draft }: { draft: Draft }) {
  const { t } = useTranslation()
  const { undo, redo } = draft
  useEffect(() => {
    function press(event: KeyboardEvent) {
      const field = event.target instanceof HTMLElement && event.target.matches('input, textarea, select')
      if (field || !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return
      event.preventDefault()
      if (event.shiftKey) redo()
      else undo()
    }
    window.addEventListener('keydown', press)
    return () => window.removeEventListener('keydown', press)
  }, [undo, redo])
  return (
    <>
      <Button variant="link" disabled={!draft.mayUndo} onClick={undo}>
        {t('plans.undo')}
      </Button>
      <Button variant="link" disabled={!draft.mayRedo} onClick={redo}>
        {t('plans.redo')}
      </Button>
    </>
  )
}

function Trouble({ draft, planId }: { draft: Draft; planId: string }) {
  const { t } = useTranslation()
  const theirs = usePlan(planId)
  if (!draft.problem)
    return draft.joined ? (
      <p className="asked mb-3" role="status">
        {t('plans.joined', { by: draft.joined.by, count: draft.joined.count })}
      </p>
    ) : null
  if (!draft.conflict)
    return (
      <div className="mb-3">
        <ProblemLine problem={draft.problem} again={draft.again} />
      </div>
    )
  return (
    <div className="asked mb-3" role="alert">
      <p>{t('plans.conflict', { by: draft.conflict.fields.by })}</p>
      <p className="quiet">{t('plans.conflictHelp')}</p>
      <Button onClick={() => void theirs.refetch().then((found) => found.data && draft.loadTheirs(found.data))}>
        {t('plans.loadTheirs')}
      </Button>
      <Button variant="outline-primary" onClick={draft.keepMine}>
        {t('plans.keepMine')}
      </Button>
    </div>
  )
}
