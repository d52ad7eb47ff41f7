import { Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'
import { useSearchParams } from 'react-router'

import { fits } from '../finding'

interface Props {
  states: readonly string[]
  nameOf: (state: string) => string
  label: string
  /** By Enter, which is also how a code reader ends what it read. */
  onEnter?: (typed: string) => void
}

/** What is looked for, kept in the address. */
export function useSought() {
  const [search] = useSearchParams()
  return { find: search.get('find') ?? '', state: search.get('state') ?? '' }
}

/** What is looked for in a list that is all there. */
export function useFound<Row>(
  rows: readonly Row[],
  textOf: (row: Row) => string,
  stateOf: (row: Row) => string,
): Row[] {
  const { find: typed, state } = useSought()
  return rows.filter((row) => fits(textOf(row), typed) && (!state || stateOf(row) === state))
}

/** A field to look for words, and a choice of state. */
export function FindBar({ states, nameOf, label, onEnter }: Props) {
  const { t } = useTranslation()
  const [search, setSearch] = useSearchParams()
  const put = (name: string, value: string) =>
    setSearch(
      (now) => {
        const next = new URLSearchParams(now)
        if (value) next.set(name, value)
        else next.delete(name)
        return next
      },
      { replace: true },
    )
  return (
    <div className="find-bar">
      <Form.Control
        type="search"
        aria-label={label}
        placeholder={label}
        value={search.get('find') ?? ''}
        onChange={(event) => put('find', event.target.value)}
        onKeyDown={(event) => event.key === 'Enter' && onEnter?.(event.currentTarget.value.trim())}
      />
      <Form.Select
        aria-label={t('find.state')}
        value={search.get('state') ?? ''}
        onChange={(event) => put('state', event.target.value)}
      >
        <option value="">{t('find.all')}</option>
        {states.map((state) => (
          <option key={state} value={state}>
            {nameOf(state)}
          </option>
        ))}
      </Form.Select>
    </div>
  )
}
