import { useState, type FormEvent } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { whenOf } from '../../shared/clock'
import { LEAST_LETTERS, lettersOf } from '../../shared/reasons'
import { ProblemLine } from '../../shared/parts/ProblemLine'
import { StateMark } from '../../shared/parts/StateMark'
import { useUnits } from '../../shared/units'
import { useChanges, useProof, useSign } from './api'
import { ChangeTable } from './ChangeTable'
import { isOpen, markOfProof } from './planned'
import type { Draft } from './useDraft'
import { useMayWrite } from './writing'

/** The signature, the versions, and what changed since the last one. */
export function SignTab({ draft, planId }: { draft: Draft; planId: string }) {
  const mayWrite = useMayWrite()
  const last = draft.saved.versions.at(-1)
  return (
    <>
      {mayWrite && draft.saved.changed_since_signed && <SignForm draft={draft} planId={planId} />}
      {last && <Changes planId={planId} version={last.version} revision={draft.saved.revision} />}
      <Versions draft={draft} />
    </>
  )
}

function SignForm({ draft, planId }: { draft: Draft; planId: string }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const { saved } = draft
  const proof = useProof(planId, draft.plan)
  const sign = useSign(planId)
  const [reason, setReason] = useState('')
  const [password, setPassword] = useState('')
  const fails = proof.data && isOpen(proof.data.state)
  const unreasoned = Boolean(fails) && lettersOf(reason) < LEAST_LETTERS
  function submit(event: FormEvent) {
    event.preventDefault()
    sign.mutate(
      { revision: saved.revision, password, reason: fails ? reason : '' },
      { onSuccess: () => setPassword('') },
    )
  }
  return (
    <Form className="sheet stack tight" onSubmit={submit}>
      <h2 className="mb-0">{t('plans.signTitle', { version: saved.versions.length + 1 })}</h2>
      {saved.gaps.length > 0 && <Gaps gaps={saved.gaps} />}
      {saved.asked_since.length > 0 && (
        <p className="strong">{t('plans.askedSince', { titles: saved.asked_since.map(words).join(', ') })}</p>
      )}
      {proof.data && (
        <div className="verdict-big">
          <StateMark state={markOfProof(proof.data.state)} bare size={28} />
          <p className={fails ? 'hot' : ''}>{words(proof.data.sentence)}</p>
        </div>
      )}
      <ProblemLine problem={proof.error} />
      {fails && <Reason value={reason} onChange={setReason} />}
      <p className="mb-0 quiet">
        {t('plans.signHash')}: <span className="hash">{saved.hash}</span>
      </p>
      <Form.Group controlId="sign-password" className="narrow">
        <Form.Label>{t('plans.signPassword')}</Form.Label>
        <Form.Control
          type="password"
          required
          autoComplete="current-password"
          value={password}
          onChange={(event) => setPassword(event.target.value)}
        />
      </Form.Group>
      <ProblemLine problem={sign.error} />
      <div>
        <Button type="submit" disabled={saved.gaps.length > 0 || draft.dirty || sign.isPending || unreasoned}>
          {t('plans.signGo')}
        </Button>
      </div>
    </Form>
  )
}

/** What is still missing before it can be signed. */
function Gaps({ gaps }: { gaps: Draft['saved']['gaps'] }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  return (
    <div>
      <p className="quiet mb-1">{t('plans.signGaps')}</p>
      <ul className="blocking mb-0">
        {gaps.map((gap) => (
          <li key={gap.sentence}>{words(gap.sentence)}</li>
        ))}
      </ul>
    </div>
  )
}

/** Why a plan whose proof fails is signed all the same. */
function Reason({ value, onChange }: { value: string; onChange: (value: string) => void }) {
  const { t } = useTranslation()
  return (
    <Form.Group controlId="sign-reason">
      <Form.Label>{t('plans.signReason')}</Form.Label>
      <Form.Control
        as="textarea"
        rows={2}
        required
        minLength={10}
        maxLength={1000}
        value={value}
        onChange={(event) => onChange(event.target.value)}
      />
    </Form.Group>
  )
}

interface ChangesProps {
  planId: string
  version: number
  revision: number
  until?: number
}

/** In words what the draft, or a later version, changes against a signed version. */
function Changes({ planId, version, revision, until }: ChangesProps) {
  const { t } = useTranslation()
  const changes = useChanges(planId, version, revision, until)
  if (!changes.data) return null
  if (changes.data.length === 0)
    return (
      <p className="sheet quiet mb-0">{until ? t('plans.sameAs', { version }) : t('plans.noChanges', { version })}</p>
    )
  return (
    <section className="sheet">
      <h2>{t('plans.changesSince', { version })}</h2>
      <ChangeTable changes={changes.data} before={t('plans.before')} after={t('plans.after_')} />
    </section>
  )
}

function Versions({ draft }: { draft: Draft }) {
  const { t } = useTranslation()
  const [compared, setCompared] = useState<number | null>(null)
  const { plan_id: planId, revision } = draft.saved
  return (
    <section className="sheet">
      <h2>{t('plans.versions')}</h2>
      {draft.saved.versions.length === 0 && <p className="quiet mb-0">{t('plans.noVersions')}</p>}
      <ul className="assumed rule-rows">
        {[...draft.saved.versions].reverse().map((version) => (
          <li key={version.version}>
            <p className="strong mb-0">
              {t('plans.versionLine', {
                version: version.version,
                by: version.signed_by,
                when: whenOf(version.signed_at),
              })}
            </p>
            <p className="mb-0">
              {version.proof_meets
                ? t('plans.proofMet')
                : t(version.departs ? 'plans.proofDeparts' : 'plans.proofFailed', { reason: version.reason })}
            </p>
            <p className="quiet hash mb-0">{version.hash}</p>
            <div className="row-line">
              <a
                className="btn btn-link"
                href={`/api/v1/plans/${planId}/versions/${version.version}/plan.pdf`}
                download
              >
                {t('plans.printVersion', { version: version.version })}
              </a>
              {version.version > 1 && (
                <Button
                  variant="link"
                  aria-expanded={compared === version.version}
                  onClick={() => setCompared(compared === version.version ? null : version.version)}
                >
                  {t('plans.changesSince', { version: version.version - 1 })}
                </Button>
              )}
            </div>
            {compared === version.version && (
              <Changes planId={planId} version={version.version - 1} until={version.version} revision={revision} />
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}
