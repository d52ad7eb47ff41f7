import { useState, type ReactNode } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

function grouped(choices: readonly (readonly [key: string, words: string, group?: string])[]) {
  const found = new Map<string, ReactNode[]>()
  for (const [key, words, group = ''] of choices)
    found.set(group, [
      ...(found.get(group) ?? []),
      <option key={key} value={key}>
        {words}
      </option>,
    ])
  return [...found]
}

/** Choose, then add: arrow keys may walk the list without adding anything. */
export function Picker({
  label,
  choices,
  onPick,
}: {
  label: string
  /** What there is, in order; neighbours of one group stand under its name. */
  choices: readonly (readonly [key: string, words: string, group?: string])[]
  onPick: (key: string) => void
}) {
  const { t } = useTranslation()
  const [chosen, setChosen] = useState('')
  const there = choices.some(([key]) => key === chosen)
  return (
    <form
      className="row-line mt-3"
      onSubmit={(event) => {
        event.preventDefault()
        if (there) onPick(chosen)
        setChosen('')
      }}
    >
      <Form.Select
        className="narrow"
        aria-label={label}
        value={there ? chosen : ''}
        onChange={(event) => setChosen(event.target.value)}
      >
        <option value="">{label}</option>
        {grouped(choices).map(([group, members]) =>
          group ? (
            <optgroup key={group} label={group}>
              {members}
            </optgroup>
          ) : (
            members
          ),
        )}
      </Form.Select>
      <Button type="submit" variant="outline-primary" disabled={!there} aria-label={t('plans.add', { what: label })}>
        {t('plans.addGo')}
      </Button>
    </form>
  )
}
