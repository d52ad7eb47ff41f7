import { Form } from 'react-bootstrap'

import { Labelled } from '../../shared/parts/Labelled'

interface Props {
  label: string
  value: string
  onChange: (value: string) => void
  required?: boolean
}

/** A password that is set, not asked for. */
export function NewPassword({ label, value, onChange, required = false }: Props) {
  return (
    <Labelled label={label}>
      <Form.Control
        type="password"
        required={required}
        autoComplete="new-password"
        minLength={10}
        value={value}
        onChange={(event) => onChange(event.target.value)}
      />
    </Labelled>
  )
}

/** A PIN for the shared tablet. */
export function NewPin({ label, value, onChange }: Props) {
  return (
    <Labelled label={label}>
      <Form.Control
        inputMode="numeric"
        autoComplete="off"
        pattern="\d{4,8}"
        value={value}
        onChange={(event) => onChange(event.target.value)}
      />
    </Labelled>
  )
}
