import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

/** Choose, then add: arrow keys may walk the list without adding anything. */
export function Picker({
  label,
  choices,
  onPick,
}: {
  label: string
  choices: readonly (readonly [key: string, words: string])[]
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
        {choices.map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </Form.Select>
      <Button type="submit" variant="outline-primary" disabled={!there} aria-label={t('plans.add', { what: label })}>
        {t('plans.addGo')}
      </Button>
    </form>
  )
}
