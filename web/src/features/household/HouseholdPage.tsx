import '../../shared/text/laterWords'

import { useState, type FormEvent } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import type { Schemas } from '../../shared/client/client'
import { PageBar } from '../../shared/parts/PageBar'
import { Labelled } from '../../shared/parts/Labelled'
import { NumberInput } from '../../shared/parts/NumberInput'
import { ProblemLine } from '../../shared/parts/ProblemLine'
import { useReference } from '../../shared/reference'
import { useRole, useSession } from '../../shared/session'
import { useUnits } from '../../shared/units'
import { useCorrectSite } from './api'
import { Hubs } from './Hubs'
import { Kit } from './Kit'
import { People } from './People'
import { Tablets } from './Tablets'

const HEIGHT = {
  ...{ name: 'altitude_m', kind: 'height', low: -100, high: 4500 },
  ...{ optional: false, show: '' },
} as Schemas['FieldSpec']
type RuleSetId = Schemas['SiteChange']['rule_set']

/** The lead's own page: what is measured with, who works here, where the kitchen is. Every change is a record. */
export function HouseholdPage() {
  const { t } = useTranslation()
  const { isLead } = useRole()
  return (
    <>
      <PageBar title={t('household.title')} sub={t('household.sub')} />
      {isLead ? (
        <div className="page stack">
          <Kit />
          <Hubs />
          <People />
          <Tablets />
          <Site />
        </div>
      ) : (
        <p className="page sheet">{t('household.leadOnly')}</p>
      )}
    </>
  )
}

function Site() {
  const { t } = useTranslation()
  const { words } = useUnits()
  const session = useSession().data
  const ruleSets = useReference().data?.rule_sets
  const correct = useCorrectSite()
  const [changed, setChanged] = useState<Partial<Schemas['SiteChange']>>({})
  if (!session) return null
  const site = {
    name: session.site,
    altitude_m: session.altitude_m,
    zone: session.zone,
    rule_set: session.rule_set as RuleSetId,
    ...changed,
  }
  const put = (part: Partial<Schemas['SiteChange']>) => setChanged((now) => ({ ...now, ...part }))
  function submit(event: FormEvent) {
    event.preventDefault()
    correct.mutate(site, { onSuccess: () => setChanged({}) })
  }
  return (
    <Form className="sheet stack tight" aria-label={t('household.site')} onSubmit={submit}>
      <h2 className="mb-0">{t('household.site')}</h2>
      <div className="pad-facts">
        <Labelled label={t('household.siteName')}>
          <Form.Control
            required
            minLength={2}
            maxLength={80}
            value={site.name}
            onChange={(event) => put({ name: event.target.value })}
          />
        </Labelled>
        <NumberInput
          stacked
          id="site-height"
          spec={HEIGHT}
          label={t('household.height')}
          value={site.altitude_m}
          onChange={(altitude) => altitude !== null && put({ altitude_m: altitude })}
        />
      </div>
      <div className="pad-facts">
        <Labelled label={t('household.zone')}>
          <Form.Control required value={site.zone} onChange={(event) => put({ zone: event.target.value })} />
        </Labelled>
        <Labelled label={t('plans.rules')}>
          <Form.Select value={site.rule_set} onChange={(event) => put({ rule_set: event.target.value as RuleSetId })}>
            {(ruleSets ?? [{ id: site.rule_set, name: site.rule_set }]).map((each) => (
              <option key={each.id} value={each.id}>
                {words(each.name)}
              </option>
            ))}
          </Form.Select>
        </Labelled>
      </div>
      <ProblemLine problem={correct.error} />
      <div>
        <Button type="submit" disabled={Object.keys(changed).length === 0 || correct.isPending}>
          {t('household.save')}
        </Button>
      </div>
    </Form>
  )
}
