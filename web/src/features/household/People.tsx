import { useState, type FormEvent } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { Labelled } from '../../shared/parts/Labelled'
import { ProblemLine } from '../../shared/parts/ProblemLine'
import { type Account, useAccounts, useAddPerson, usePresence, useSecrets, useSignOutEverywhere } from './api'

const ROLES = ['cook', 'lead', 'reviewer'] as const

/** Who works here: let in, kept out, given new secrets, signed out everywhere. */
export function People() {
  const { t } = useTranslation()
  const accounts = useAccounts()
  return (
    <section className="sheet">
      <h2>{t('household.people')}</h2>
      <ProblemLine problem={accounts.error} again={() => void accounts.refetch()} />
      <ul className="assumed rule-rows">
        {(accounts.data ?? []).map((account) => (
          <Person key={account.id} account={account} />
        ))}
      </ul>
      <AddPerson />
    </section>
  )
}

function Person({ account }: { account: Account }) {
  const { t } = useTranslation()
  const presence = usePresence(account.id)
  const secrets = useSecrets(account.id)
  const out = useSignOutEverywhere(account.id)
  const [open, setOpen] = useState(false)
  const [password, setPassword] = useState('')
  const [pin, setPin] = useState('')
  function submit(event: FormEvent) {
    event.preventDefault()
    secrets.mutate(
      { password: password || null, pin: pin || null },
      {
        onSuccess: () => {
          setOpen(false)
          setPassword('')
          setPin('')
        },
      },
    )
  }
  return (
    <li aria-label={account.name}>
      <div className="row-line">
        <span className="strong">{account.name}</span>
        <span className="quiet">
          {t(`roles.${account.role}`)}
          {account.active ? '' : `, ${t('household.left')}`}
        </span>
        <Button className="push" variant="link" onClick={() => setOpen(!open)} aria-expanded={open}>
          {t('household.renew')}
        </Button>
        <Button variant="link" disabled={out.isPending} onClick={() => out.mutate(null)}>
          {t(out.isSuccess ? 'household.outDone' : 'household.out')}
        </Button>
        <Button
          variant="outline-primary"
          disabled={presence.isPending}
          onClick={() => presence.mutate(!account.active)}
        >
          {t(account.active ? 'household.keepOut' : 'household.letIn')}
        </Button>
      </div>
      {open && (
        <Form onSubmit={submit} className="pad-facts">
          <Labelled label={t('household.password')}>
            <Form.Control
              type="password"
              autoComplete="new-password"
              minLength={10}
              value={password}
              onChange={(event) => setPassword(event.target.value)}
            />
          </Labelled>
          <Labelled label={t('household.pin')}>
            <Form.Control
              inputMode="numeric"
              autoComplete="off"
              pattern="\d{4,8}"
              value={pin}
              onChange={(event) => setPin(event.target.value)}
            />
          </Labelled>
          <Button type="submit" disabled={(!password && !pin) || secrets.isPending}>
            {t('household.save')}
          </Button>
        </Form>
      )}
      <ProblemLine problem={presence.error ?? secrets.error ?? out.error} />
    </li>
  )
}

function AddPerson() {
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
        <Labelled label={t('household.firstPassword')}>
          <Form.Control
            type="password"
            required
            minLength={10}
            autoComplete="new-password"
            value={password}
            onChange={(event) => setPassword(event.target.value)}
          />
        </Labelled>
        <Labelled label={t('household.firstPin')}>
          <Form.Control
            inputMode="numeric"
            autoComplete="off"
            pattern="\d{4,8}"
            value={pin}
            onChange={(event) => setPin(event.target.value)}
          />
        </Labelled>
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
