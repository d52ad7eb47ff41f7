import { useState, type ReactNode } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { found } from '../finding'

const MANY = 40 // more than one looks through

function grouped(choices: readonly (readonly [key: string, words: string, group?: string, also?: string])[]) {
  const members = new Map<string, ReactNode[]>()
  for (const [key, words, group = ''] of choices)
    members.set(group, [
      ...(members.get(group) ?? []),
      <option key={key} value={key}>
        {words}
      </option>,
    ])
  return [...members]
}

/** Choose, then add: arrow keys may walk the list without adding anything. A long list is looked through by typing. */
export function Picker({
  label,
  choices,
  onPick,
}: {
  label: string
  /** What there is, in order; neighbours of one group stand under its name; what else it is called finds it too. */
  choices: readonly (readonly [key: string, words: string, group?: string, also?: string])[]
  onPick: (key: string) => void
}) {
  const { t } = useTranslation()
  const [chosen, setChosen] = useState('')
  const [typed, setTyped] = useState('')
  const looking = Boolean(typed.trim())
  const hits = found(
    choices,
    typed,
    ([, words]) => words,
    ([, , group = '', also = '']) => `${group} ${also}`,
  )
  // what fits best stands first, whatever its group; Enter takes the very word, or the only hit
  const shown = looking ? hits.shown.map(([key, words]) => [key, words] as const) : choices
  const value = shown.some(([key]) => key === chosen) ? chosen : looking ? (hits.sure?.[0] ?? '') : ''
  return (
    <form
      className={choices.length > MANY ? 'picker-long mt-3' : 'row-line mt-3'}
      onSubmit={(event) => {
        event.preventDefault()
        if (value) onPick(value)
        setChosen('')
        setTyped('')
      }}
    >
      {choices.length > MANY && (
        <Form.Control
          type="search"
          placeholder={t('plans.findOne')}
          aria-label={t('plans.findIn', { what: label })}
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
      )}
      <Form.Select
        className="narrow"
        aria-label={label}
        value={value}
        onChange={(event) => setChosen(event.target.value)}
      >
        <option value="">{shown.length ? label : t('plans.noneFound')}</option>
        {grouped(shown).map(([group, members]) =>
          group ? (
            <optgroup key={group} label={group}>
              {members}
            </optgroup>
          ) : (
            members
          ),
        )}
      </Form.Select>
      <Button type="submit" variant="outline-primary" disabled={!value} aria-label={t('plans.add', { what: label })}>
        {t('plans.addGo')}
      </Button>
    </form>
  )
}
