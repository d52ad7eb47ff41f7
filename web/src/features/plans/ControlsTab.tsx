import { useState } from 'react'
import { Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { lengthOf } from '../../shared/clock'
import { useUnits } from '../../shared/units'
import { type Reference, useQuantities } from '../../shared/reference'
import type { Control } from './api'
import type { Draft } from './useDraft'
import { useMayWrite } from './writing'

/** Each critical control point: limits with source, monitoring, corrective actions, verification. */
export function ControlsTab({ draft, reference }: { draft: Draft; reference: Reference }) {
  const { t } = useTranslation()
  const { controls } = draft.plan
  if (controls.length === 0) return <p className="sheet quiet">{t('plans.noControls')}</p>
  return controls.map((control) => (
    <ControlSheet key={control.step} control={control} draft={draft} reference={reference} />
  ))
}

interface Props {
  control: Control
  draft: Draft
  reference: Reference
}

type Put = (part: (now: Control) => Partial<Control>) => void

export function ControlSheet({ control, draft, reference }: Props) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const mayWrite = useMayWrite()
  const { plan, change } = draft
  const put: Put = (part) =>
    change((now) => ({
      controls: now.controls.map((each) => (each.step === control.step ? { ...each, ...part(each) } : each)),
    }))
  const step = plan.steps.find((each) => each.id === control.step)
  const hazards = control.hazards.map((key) => words(plan.hazards.find((hazard) => hazard.key === key)?.name ?? key))
  return (
    <section className="sheet">
      <h2>
        {step && words(step.name)} <span className="quiet">{hazards.join(', ')}</span>
      </h2>
      <Limits control={control} draft={draft} reference={reference} put={put} />
      <Watched monitoring={control.monitoring} />
      <div className="rules-two">
        <Lines
          label={t('plans.corrective')}
          lines={control.corrective_actions}
          disabled={!mayWrite}
          onChange={(lines) => put(() => ({ corrective_actions: lines }))}
        />
        <Lines
          label={t('plans.verification')}
          lines={control.verification}
          disabled={!mayWrite}
          onChange={(lines) => put(() => ({ verification: lines }))}
        />
      </div>
    </section>
  )
}

/** Each limit with its source and the other schools it could be set by; and why, where it is not the usual one. */
function Limits({ control, draft, reference, put }: Props & { put: Put }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const mayWrite = useMayWrite()
  const entries = reference.rule_sets.find((each) => each.id === draft.plan.rule_set)?.entries ?? []
  const entryOf = (id: string) => entries.find((entry) => entry.limit.id === id)
  const schoolsOf = (id: string) => entries.filter((entry) => entry.topic === entryOf(id)?.topic)
  const usual = (id: string) => (schoolsOf(id).find((entry) => entry.preferred) ?? schoolsOf(id)[0])?.limit.id === id
  const other = control.limits.map((limit) => entryOf(limit.id)).find((entry) => entry && !usual(entry.limit.id))
  return (
    <>
      <h3>{t('plans.limits')}</h3>
      <ul className="assumed rule-rows mb-3">
        {control.limits.map((limit) => (
          <li key={limit.id}>
            <div className="row-line">
              <span className="strong">{draft.saved.titles[limit.title] ?? words(limit.title)}</span>
              {mayWrite && schoolsOf(limit.id).length > 1 && (
                <Form.Select
                  className="push narrow"
                  aria-label={t('plans.swap')}
                  value={limit.id}
                  onChange={(event) => {
                    const next = entryOf(event.target.value)?.limit
                    if (next) put((now) => ({ limits: now.limits.map((each) => (each.id === limit.id ? next : each)) }))
                  }}
                >
                  {schoolsOf(limit.id).map((entry) => (
                    <option key={entry.limit.id} value={entry.limit.id}>
                      {words(entry.school)}
                    </option>
                  ))}
                </Form.Select>
              )}
            </div>
            {limit.qualifier && <p className="mb-0">{words(limit.qualifier)}</p>}
            <p className="quiet small mb-0">{t('batch.source', { citation: limit.source.citation })}</p>
          </li>
        ))}
      </ul>
      {(other || control.departs) && (
        <Form.Group className="mb-3">
          <Form.Label>{t('plans.departs')}</Form.Label>
          {other?.approval && <p className="mb-1">{words(other.approval)}</p>}
          <Form.Control
            as="textarea"
            rows={2}
            maxLength={600}
            aria-label={t('plans.departs')}
            disabled={!mayWrite}
            value={control.departs ?? ''}
            onChange={(event) => {
              const departs = event.target.value
              put(() => ({ departs }))
            }}
          />
        </Form.Group>
      )}
    </>
  )
}

/** What is watched, how, how often and by whom. */
function Watched({ monitoring }: { monitoring: Control['monitoring'] }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const { said } = useQuantities()
  return (
    <>
      <h3>{t('plans.monitoring')}</h3>
      <div className="table-responsive">
        <table className="table mb-3">
          <thead>
            <tr>
              <th>{t('batch.what')}</th>
              <th>{t('plans.how')}</th>
              <th>{t('plans.often')}</th>
              <th>{t('plans.who')}</th>
            </tr>
          </thead>
          <tbody>
            {monitoring.map((item) => (
              <tr key={item.id}>
                <td>
                  <span className="strong">{words(item.what)}</span>
                  <span className="quiet small d-block">
                    {t('batch.expectedBand', {
                      low: said(item.quantity, item.expected_low_c),
                      high: said(item.quantity, item.expected_high_c),
                    })}
                  </span>
                </td>
                <td>{words(item.how)}</td>
                <td>{oftenOf(item, t)}</td>
                <td>{t(`roles.${item.who}`)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </>
  )
}

function oftenOf(
  item: Control['monitoring'][number],
  t: (key: string, fields?: Record<string, string>) => string,
): string {
  const parts = item.offsets_s.map((offset) =>
    offset === 0 ? t('plans.atStart') : t('plans.after', { time: lengthOf(offset) }),
  )
  if (item.every_s) parts.push(t('plans.every', { time: lengthOf(item.every_s) }))
  return parts.length ? parts.join(', ') : t('plans.atEnd')
}

function linesOf(text: string): string[] {
  return text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean)
}

function Lines({
  label,
  lines,
  disabled,
  onChange,
}: {
  label: string
  lines: readonly string[]
  disabled: boolean
  onChange: (lines: string[]) => void
}) {
  const { words } = useUnits()
  // a line the catalogue knows is read in the reader's language, and kept as it was while nobody changes it
  const asKept = new Map(lines.map((line) => [words(line), line]))
  const read = lines.map((line) => words(line)).join('\n')
  // what is typed stands as typed while it says the same; an undo or another's hand shows at once
  const [text, setText] = useState(read)
  const shown = linesOf(text).join('\n') === read ? text : read
  return (
    <Form.Group>
      <Form.Label>{label}</Form.Label>
      <Form.Control
        as="textarea"
        rows={3}
        aria-label={label}
        disabled={disabled}
        value={shown}
        onChange={(event) => {
          setText(event.target.value)
          onChange(linesOf(event.target.value).map((line) => asKept.get(line) ?? line))
        }}
      />
    </Form.Group>
  )
}
