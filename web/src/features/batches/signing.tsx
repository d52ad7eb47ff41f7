import { useState } from 'react'
import { Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

export type Signing = ReturnType<typeof useSigning>

/** What somebody signs with: a reason, printed on the record, and the password. */
export function useSigning() {
  const [reason, setReason] = useState('')
  const [password, setPassword] = useState('')
  return { reason, password, setReason, setPassword, given: { reason: reason.trim(), password } }
}

/** The two fields of it. */
export function SigningFields({ signing }: { signing: Signing }) {
  const { t } = useTranslation()
  return (
    <>
      <Form.Control
        as="textarea"
        rows={2}
        required
        minLength={3}
        maxLength={1000}
        aria-label={t('batch.reason')}
        placeholder={t('batch.reason')}
        value={signing.reason}
        onChange={(event) => signing.setReason(event.target.value)}
      />
      <Form.Control
        type="password"
        required
        autoComplete="current-password"
        aria-label={t('batch.password')}
        placeholder={t('batch.password')}
        value={signing.password}
        onChange={(event) => signing.setPassword(event.target.value)}
      />
    </>
  )
}
