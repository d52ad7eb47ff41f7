import { Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import type { Step } from './api'
import { endedLines, linesOf, rootsFor } from './lines'
import type { Draft } from './useDraft'
import { useMayWrite } from './writing'

interface Props {
  draft: Draft
  step: Step
  put: (next: (now: Step) => Step) => void
}

const NEW = '+'

/** Which line a step is in, what the line begins with, and which lines run into the step. */
export function LineFields({ draft: { plan }, step, put }: Props) {
  const { t } = useTranslation()
  const mayWrite = useMayWrite()
  const lines = linesOf(plan.steps)
  const named = lines.filter((line) => line !== '')
  const ended = endedLines(plan.steps, step)
  const roots = rootsFor(plan.steps, step)
  if (plan.steps.length < 2) return null
  return (
    <div className="fields mt-3">
      <Form.Group controlId="step-line">
        <Form.Label>{t('plans.line')}</Form.Label>
        <Form.Select
          disabled={!mayWrite}
          value={step.line}
          onChange={(event) => {
            const line = event.target.value === NEW ? step.name.slice(0, 40) : event.target.value
            put((now) => ({ ...now, line, out_of: '' }))
          }}
        >
          <option value="">{t('plans.lineMain')}</option>
          {named.map((line) => (
            <option key={line}>{line}</option>
          ))}
          {!named.includes(step.name) && <option value={NEW}>{t('plans.lineNew')}</option>}
        </Form.Select>
      </Form.Group>
      {roots.length > 0 && (
        <Form.Group controlId="step-out-of">
          <Form.Label>{t('plans.outOf')}</Form.Label>
          <Form.Select
            disabled={!mayWrite}
            value={step.out_of}
            onChange={(event) => put((now) => ({ ...now, out_of: event.target.value }))}
          >
            <option value="">{t('plans.outOfOwn')}</option>
            {roots.map((each) => (
              <option key={each.id} value={each.id}>
                {t('plans.outOfStep', { step: each.name })}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
      )}
      {ended.length > 0 && (
        <fieldset>
          <legend className="form-label">{t('plans.linesTaken')}</legend>
          {ended.map((line) => (
            <Form.Check
              key={line}
              id={`takes-${line}`}
              type="switch"
              label={line || t('plans.lineMain')}
              disabled={!mayWrite}
              checked={step.takes.includes(line)}
              onChange={(event) =>
                put((now) => ({
                  ...now,
                  takes: event.target.checked ? [...now.takes, line] : now.takes.filter((each) => each !== line),
                }))
              }
            />
          ))}
        </fieldset>
      )}
    </div>
  )
}
