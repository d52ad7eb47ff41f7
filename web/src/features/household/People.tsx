import { useState, type FormEvent } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

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
      <ul className="assumed rule-rows">{(accounts.data ?? []).map((account) => <Person key={account.id} account={account} />)}</ul>
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
    secrets.mutate({ password: password || null, pin: pin || null }, { onSuccess: () => { setOpen(false); setPassword(''); setPin('') } })
  }
  return (
    <li aria-label={account.name}>
      <div className="row-line">
        <span className="strong">{account.name}</span>
        <span className="quiet">{t(`roles.${account.role}`)}{account.active ? '' : `, ${t('household.left')}`}</span>
        <Button className="push" variant="link" onClick={() => setOpen(!open)} aria-expanded={open}>{t('household.renew')}</Button>
        <Button variant="link" disabled={out.isPending} onClick={() => out.mutate(null)}>{t(out.isSuccess ? 'household.outDone' : 'household.out')}</Button>
        <Button variant="outline-primary" disabled={presence.isPending} onClick={() => presence.mutate(!account.active)}>{t(account.active ? 'household.keepOut' : 'household.letIn')}</Button>
      </div>
      {open && (
        <Form onSubmit={submit} className="pad-facts">
          <Form.Control type="password" autoComplete="new-password" minLength={10} aria-label={t('household.password')} placeholder={t('household.password')} value={password} onChange={(event) => setPassword(event.target.value)} />
          <Form.Control inputMode="numeric" autoComplete="off" pattern="\d{4,8}" aria-label={t('household.pin')} placeholder={t('household.pin')} value={pin} onChange={(event) => setPin(event.target.value)} />
          <Button type="submit" disabled={(!password && !pin) || secrets.isPending}>{t('household.save')}</Button>
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
    add.mutate({ name: name.trim(), role, password, pin: pin || null }, { onSuccess: () => { setName(''); setPassword(''); setPin('') } })
  }
  return (
    <Form onSubmit={submit} className="stack tight mt-3">
      <h3 className="mb-0">{t('household.addPerson')}</h3>
      <div className="pad-facts">
        <Form.Control required minLength={2} maxLength={80} aria-label={t('household.name')} placeholder={t('household.name')} value={name} onChange={(event) => setName(event.target.value)} />
        <Form.Select aria-label={t('household.role')} value={role} onChange={(event) => setRole(event.target.value as typeof role)}>
          {ROLES.map((each) => <option key={each} value={each}>{t(`roles.${each}`)}</option>)}
        </Form.Select>
      </div>
      <div className="pad-facts">
        <Form.Control type="password" required minLength={10} autoComplete="new-password" aria-label={t('household.firstPassword')} placeholder={t('household.firstPassword')} value={password} onChange={(event) => setPassword(event.target.value)} />
        <Form.Control inputMode="numeric" autoComplete="off" pattern="\d{4,8}" aria-label={t('household.firstPin')} placeholder={t('household.firstPin')} value={pin} onChange={(event) => setPin(event.target.value)} />
      </div>
      <ProblemLine problem={add.error} />
      <div><Button type="submit" variant="outline-primary" disabled={add.isPending}>{t('household.addPerson')}</Button></div>
    </Form>
  )
}
