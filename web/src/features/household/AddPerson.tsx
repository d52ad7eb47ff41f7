import { useState, type FormEvent } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { Labelled } from '../../shared/parts/Labelled'
import { ProblemLine } from '../../shared/parts/ProblemLine'
import { useAddPerson } from './api'
import { NewPassword, NewPin } from './Secrets'

const ROLES = ['cook', 'lead', 'reviewer'] as const

/** Somebody new: name, role, and what they sign in with at first. */
export function AddPerson() {
  const { t } = useTranslation()
  const add = useAddPerson()
  const [name, setName] = useState('')
  const [role, setRole] = useState<(typeof ROLES)[number]>('cook')
  const [password, setPassword] = useState('')
  const [pin, setPin] = useState('')
  function submit(event: FormEvent) {
    event.preventDefault()
    add.mutate(
      { name: name.trim(), role, password, pin: pin || null },
      {
        onSuccess: () => {
          setName('')
          setPassword('')
          setPin('')
        },
      },
    )
  }
  return (
    <Form onSubmit={submit} className="stack tight mt-3" aria-label={t('household.addPerson')}>
      <h3 className="mb-0">{t('household.addPerson')}</h3>
      <div className="pad-facts">
        <Labelled label={t('household.name')}>
          <Form.Control
            required
            minLength={2}
            maxLength={80}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </Labelled>
        <Labelled label={t('household.role')}>
          <Form.Select value={role} onChange={(event) => setRole(event.target.value as typeof role)}>
            {ROLES.map((each) => (
              <option key={each} value={each}>
                {t(`roles.${each}`)}
              </option>
            ))}
          </Form.Select>
        </Labelled>
      </div>
      <div className="pad-facts">
        <NewPassword label={t('household.firstPassword')} value={password} onChange={setPassword} required />
        <NewPin label={t('household.firstPin')} value={pin} onChange={setPin} />
      </div>
      <ProblemLine problem={add.error} />
      <div>
        <Button type="submit" variant="outline-primary" disabled={add.isPending}>
          {t('household.addPerson')}
        </Button>
      </div>
    </Form>
  )
}
