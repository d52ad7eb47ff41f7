import { Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { useUnits } from '../../shared/units'
import type { Draft } from './useDraft'
import { useMayWrite } from './writing'

type Item = Draft['plan']['ingredients'][number]
type Step = Draft['plan']['steps'][number]

/** Where a dish ends more than once: at which of its ends a part is eaten raw or rare; done at the others. */
export function EatenAt({ item, steps, put }: { item: Item; steps: Step[]; put: (made: Partial<Item>) => void }) {
  const { t } = useTranslation()
  const mayWrite = useMayWrite()
  const { words } = useUnits()
  const ends = endsOf(steps)
  if (ends.length < 2 || (item.eaten !== 'raw' && item.eaten !== 'rare')) return null
  const everywhere = ends.map((step) => step.id).join()
  const choices: [string, string][] = [
    ['', t('plans.eatenAtOwnEnd')],
    ...ends.map((step): [string, string] => [step.id, t('plans.eatenAt', { step: words(step.name) })]),
    [everywhere, t('plans.eatenEverywhere')],
  ]
  return (
    <Form.Select
      disabled={!mayWrite}
      aria-label={t('plans.eatenWhere', { name: words(item.name) })}
      value={item.eaten_at.join()}
      onChange={(event) => put({ eaten_at: event.target.value ? event.target.value.split(',') : [] })}
    >
      {choices.map(([ids, said]) => (
        <option key={ids} value={ids}>
          {said}
        </option>
      ))}
    </Form.Select>
  )
}

/** The last step of each line that runs into no other. */
function endsOf(steps: Step[]): Step[] {
  const taken = new Set(steps.flatMap((step) => step.takes))
  const lines = [...new Set(steps.map((step) => step.line))].filter((line) => !taken.has(line))
  return lines.flatMap((line) => steps.filter((step) => step.line === line).slice(-1))
}
