import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import type { Schemas } from '../../shared/client/client'
import { NumberInput } from '../../shared/parts/NumberInput'
import { Picker } from '../../shared/parts/Picker'
import type { Reference } from '../../shared/reference'
import { useUnits } from '../../shared/units'
import { DescribedFood, NewFood } from './Described'
import { EatenAt } from './EatenAt'
import type { Draft } from './useDraft'
import { useMayWrite } from './writing'

/** What the dish is: its name, who eats it, what is in it. */
export function Dish({ draft, reference }: { draft: Draft; reference: Reference }) {
  const { t } = useTranslation()
  const mayWrite = useMayWrite()
  const { plan, change } = draft
  return (
    <section className="sheet">
      <div className="fields">
        <Form.Group controlId="dish-name">
          <Form.Label>{t('plans.name')}</Form.Label>
          <Form.Control
            disabled={!mayWrite}
            value={plan.name}
            maxLength={120}
            onChange={(event) => event.target.value && change({ name: event.target.value })}
          />
        </Form.Group>
        <Form.Group controlId="dish-guests">
          <Form.Label>{t('plans.guests')}</Form.Label>
          <Form.Select
            disabled={!mayWrite}
            value={plan.guests}
            onChange={(event) => change({ guests: event.target.value === 'higher_risk' ? 'higher_risk' : 'general' })}
          >
            <option value="general">{t('plans.general')}</option>
            <option value="higher_risk">{t('plans.higher_risk')}</option>
          </Form.Select>
        </Form.Group>
        <Form.Group controlId="dish-family">
          <Form.Label>{t('plans.family')}</Form.Label>
          <Form.Select
            disabled={!mayWrite}
            value={plan.family ?? ''}
            onChange={(event) => change({ family: (event.target.value || null) as Draft['plan']['family'] })}
          >
            <option value="">{t('plans.familyBySteps')}</option>
            {reference.families.map((each) => (
              <option key={each.key} value={each.key}>
                {each.name}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
      </div>
      <Form.Group controlId="dish-product" className="mt-3">
        <Form.Label>{t('plans.product')}</Form.Label>
        <Form.Control
          as="textarea"
          rows={2}
          disabled={!mayWrite}
          maxLength={600}
          value={plan.product}
          onChange={(event) => change({ product: event.target.value })}
        />
      </Form.Group>
      <Ingredients draft={draft} reference={reference} />
    </section>
  )
}

/** What is in it, and which of it is made here; the lead adds from the catalogue and takes out. */
function Ingredients({ draft, reference }: { draft: Draft; reference: Reference }) {
  const { t } = useTranslation()
  const mayWrite = useMayWrite()
  const { words } = useUnits()
  const { plan, change } = draft
  const left = reference.catalogue.ingredients.filter(
    (each) => !plan.ingredients.some((item) => item.catalogue === each.key),
  )
  function add(key: string) {
    const found = reference.catalogue.ingredients.find((each) => each.key === key)
    if (!found) return
    const { name, key: catalogue, allergens } = found
    put({ name, catalogue, allergens, described: null })
  }
  function put(item: Pick<Item, 'name' | 'catalogue' | 'allergens' | 'described'>) {
    change((now) => ({
      ingredients: [
        ...now.ingredients,
        { ...item, made_here: false, enters: '', amount_kg: 0, eaten: '', eaten_at: [] },
      ],
    }))
  }
  return (
    <>
      <h3 className="mt-3">{t('plans.ingredients')}</h3>
      <ul className="plain-list ingredients">
        {plan.ingredients.map((item) => (
          <IngredientLine key={item.name} item={item} draft={draft} />
        ))}
      </ul>
      {mayWrite && (
        <Picker
          label={t('plans.addIngredient')}
          choices={left.map((each) => [each.key, words(each.name), each.group, each.aliases.join(' ')] as const)}
          onPick={add}
        />
      )}
      {mayWrite && <NewFood onAdd={(name, described) => put({ name, catalogue: null, allergens: [], described })} />}
    </>
  )
}

type Item = Draft['plan']['ingredients'][number]
// how much of it goes into what the plan makes; empty: not said
const AMOUNT = {
  name: 'amount_kg', kind: 'mass', show: 'kg', low: 0, high: 2000, step: 0.05, optional: true, main: false, size: 1,
} as unknown as Schemas['FieldSpec'] // prettier-ignore
const EATEN = ['raw', 'rare', 'by_table'] as const

function IngredientLine({ item, draft: { plan, change } }: { item: Item; draft: Draft }) {
  const { t } = useTranslation()
  const mayWrite = useMayWrite()
  const { words } = useUnits()
  const put = (made: Partial<Item>) =>
    change((now) => ({
      ingredients: now.ingredients.map((each) => (each.name === item.name ? { ...each, ...made } : each)),
    }))
  const remove = () => change((now) => ({ ingredients: now.ingredients.filter((each) => each.name !== item.name) }))
  return (
    <li className="ingredient-line">
      <span className="strong">{words(item.name)}</span>
      {mayWrite && (
        <Button
          size="sm"
          variant="link"
          aria-label={t('plans.removeNamed', { name: words(item.name) })}
          onClick={remove}
        >
          {t('plans.remove')}
        </Button>
      )}
      {item.described && (
        <DescribedFood
          name={item.name}
          said={item.described}
          readOnly={!mayWrite}
          onChange={(described) => put({ described })}
        />
      )}
      <NumberInput
        stacked
        id={`amount-${item.name}`}
        spec={AMOUNT}
        label={t('plans.amountOf', { name: words(item.name) })}
        disabled={!mayWrite}
        value={item.amount_kg || null}
        onChange={(kg) => put({ amount_kg: kg ?? 0 })}
      />
      {plan.steps.length > 1 && (
        <Form.Select
          disabled={!mayWrite}
          aria-label={t('plans.goesInAt', { name: words(item.name) })}
          value={item.enters === plan.steps[0]?.id ? '' : item.enters}
          onChange={(event) => put({ enters: event.target.value })}
        >
          <option value="">{t('plans.fromTheStart')}</option>
          {plan.steps.slice(1).map((step) => (
            <option key={step.id} value={step.id}>
              {t('plans.goesIn', { step: words(step.name) })}
            </option>
          ))}
        </Form.Select>
      )}
      <Form.Select
        disabled={!mayWrite}
        aria-label={t('plans.eatenHow', { name: words(item.name) })}
        value={item.eaten}
        onChange={(event) => put({ eaten: event.target.value as Item['eaten'] })}
      >
        <option value="">{t('plans.eatenDone')}</option>
        {EATEN.map((way) => (
          <option key={way} value={way}>
            {t(`plans.eaten.${way}`)}
          </option>
        ))}
      </Form.Select>
      <EatenAt item={item} steps={plan.steps} put={put} />
      {mayWrite && (
        <Form.Check
          type="switch"
          id={`made-here-${item.name}`}
          label={t('plans.madeHere')}
          checked={item.made_here}
          onChange={(event) => put({ made_here: event.target.checked })}
        />
      )}
    </li>
  )
}
