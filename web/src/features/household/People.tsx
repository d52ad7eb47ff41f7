import { useState, type FormEvent } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { Labelled } from '../../shared/parts/Labelled'
import { ProblemLine } from '../../shared/parts/ProblemLine'
import { useSession } from '../../shared/session'
import { AddPerson } from './AddPerson'
import { type Account, useAccounts, usePresence, useSecrets, useSignOutEverywhere } from './api'
import { NewPassword, NewPin } from './Secrets'

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
  const me = useSession().data?.person?.id
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
      {open && <Renew secrets={secrets} own={me === account.id} onDone={() => setOpen(false)} />}
      <ProblemLine problem={presence.error ?? secrets.error ?? out.error} />
    </li>
  )
}

/** Another password, another PIN, or both. */
function Renew({
  secrets,
  own,
  onDone,
}: {
  secrets: ReturnType<typeof useSecrets>
  /** One's own: the password there was is asked for. */
  own: boolean
  onDone: () => void
}) {
  const { t } = useTranslation()
  const [password, setPassword] = useState('')
  const [pin, setPin] = useState('')
  const [current, setCurrent] = useState('')
  function submit(event: FormEvent) {
    event.preventDefault()
    secrets.mutate({ password: password || null, pin: pin || null, current }, { onSuccess: onDone })
  }
  return (
    <Form onSubmit={submit} className="pad-facts">
      {own && (
        <Labelled label={t('household.current')}>
          <Form.Control
            type="password"
            required
            autoComplete="current-password"
            value={current}
            onChange={(event) => setCurrent(event.target.value)}
          />
        </Labelled>
      )}
      <NewPassword label={t('household.password')} value={password} onChange={setPassword} />
      <NewPin label={t('household.pin')} value={pin} onChange={setPin} />
      <Button type="submit" disabled={(!password && !pin) || secrets.isPending}>
        {t('household.save')}
      </Button>
    </Form>
  )
}
