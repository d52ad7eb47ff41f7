import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { nowMs, timeOf, whenOf } from '../../shared/clock'
import { Hint } from '../../shared/parts/Hint'
import { ProblemLine } from '../../shared/parts/ProblemLine'
import type { PadTarget } from '../../shared/parts/usePad'
import { useRole } from '../../shared/session'
import { useUnits } from '../../shared/units'
import type { Batch } from './api'
import { targetOf } from './targets'
import { type Marking, useMarking } from './useMarking'

const OVERRUN_MS = 15 * 60_000 // common practice, no source

interface Props {
  batch: Batch
  onLog: ((target: PadTarget) => void) | undefined
}

/** The step that runs, and the ones that may begin now. */
export function NextStep({ batch, onLog }: Props) {
  const { t } = useTranslation()
  const { mayLog } = useRole()
  const nameOf = useStepName(batch)
  const marking = useMarking(batch.batch_id)
  if (batch.closed) return null
  const runs = batch.blocks.filter((block) => batch.running.includes(block.step))
  const first = batch.startable[0]
  const waits = first ? t('batch.waiting', { name: nameOf(first) }) : t('batch.allDone')
  const over = runs.filter((run) => !run.endless && Date.parse(run.planned_end) < nowMs() - OVERRUN_MS)
  const running = runs.map((run) => t('batch.running', { name: run.name, time: whenOf(run.starts) })).join(', ')
  return (
    <section className="sheet next-bar">
      <h2 className="mb-0">{running || waits}</h2>
      {over.map((run) => (
        <p key={run.step} className="hot strong mb-0">
          {t('batch.overrun', { name: run.name, time: whenOf(run.planned_end) })}
        </p>
      ))}
      {mayLog && (
        <div className="next-doing">
          <NextCheck batch={batch} onLog={onLog} />
          <StepButtons batch={batch} runs={runs} marking={marking} />
          <Form.Group controlId="step-at">
            <Form.Label className="quiet small mb-1">{t('batch.stepAt')}</Form.Label>
            <Form.Control
              value={marking.clock}
              placeholder={`${t('pad.now')}, ${timeOf(nowMs())}`}
              onChange={(event) => marking.setClock(event.target.value)}
            />
          </Form.Group>
          <Hint text={marking.hint} />
          <ProblemLine problem={marking.problem} keepHere={marking.keepHere} />
          {marking.confirm && (
            <Button variant="outline-primary" onClick={marking.confirm}>
              {t('batch.goOn')}
            </Button>
          )}
        </div>
      )}
    </section>
  )
}

/** What the button says that was touched: if it has to wait, the tablet calls it that. */
function called({ currentTarget }: { currentTarget: HTMLElement }): string {
  return currentTarget.textContent
}

function useStepName(batch: Batch) {
  const { words } = useUnits()
  return (id: string) => words(batch.plan.steps.find((step) => step.id === id)?.name ?? id)
}

/** What may begin first, then what may end: where nothing may begin, the end of what runs is the main thing. */
function StepButtons({ batch, runs, marking }: { batch: Batch; runs: Batch['blocks']; marking: Marking }) {
  const { t } = useTranslation()
  const nameOf = useStepName(batch)
  const [startable, running, disabled] = [batch.startable, runs.at(-1), marking.busy]
  const undecided = batch.deviations.some((each) => !each.decision && !each.withdrawn)
  const first = startable[0]
  return (
    <>
      {startable.map((step, index) => (
        <Button
          key={step}
          variant={index === 0 && !undecided ? 'primary' : 'outline-primary'}
          disabled={disabled}
          onClick={(event) => marking.begin(step, called(event))}
        >
          {running
            ? t('batch.endAndBegin', { name: nameOf(step), running: running.name })
            : t('batch.begin', { name: nameOf(step) })}
        </Button>
      ))}
      {running && !first && (
        <Button disabled={disabled} onClick={(event) => marking.finish(running.step, called(event))}>
          {t('batch.finish', { name: running.name })}
        </Button>
      )}
      {running && first && (
        <Button variant="link" disabled={disabled} onClick={(event) => marking.begin(first, called(event), true)}>
          {t('batch.beginBeside', { name: nameOf(first), running: running.name })}
        </Button>
      )}
      {(first ? runs : runs.slice(0, -1)).map((run) => (
        <Button
          key={run.step}
          variant="link"
          disabled={disabled}
          onClick={(event) => marking.finish(run.step, called(event))}
        >
          {t('batch.finish', { name: run.name })}
        </Button>
      ))}
    </>
  )
}

/** The check that is due next, one touch away. */
function NextCheck({ batch, onLog }: Props) {
  const { t } = useTranslation()
  const next = batch.checks.find((check) => ['late', 'due'].includes(check.state) && !check.planned)
  if (!next || !onLog) return null
  return <Button onClick={() => onLog(targetOf(batch, next))}>{t('batch.log', { what: next.what })}</Button>
}
