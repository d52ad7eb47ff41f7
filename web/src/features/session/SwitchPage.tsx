import { useState, type FormEvent } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'
import { useNavigate } from 'react-router'

import type { Schemas } from '../../shared/client/client'
import { PageBar } from '../../shared/parts/PageBar'
import { ProblemLine } from '../../shared/parts/ProblemLine'
import { usePeople, usePinSwitch, useSignOut } from '../../shared/session'

const MOST = 8 // digits of a PIN

/** Another pair of hands takes the tablet: a name, four digits. */
export function SwitchPage() {
  const { t } = useTranslation()
  const people = usePeople()
  const signOut = useSignOut()
  const [person, setPerson] = useState<Schemas['PersonRead'] | null>(null)
  return (
    <>
      <PageBar title={t('menu.switch')} />
      <div className="page switch">
        {person ? (
          <PinPad person={person} onBack={() => setPerson(null)} />
        ) : (
          <>
            <h2>{t('signIn.who')}</h2>
            <div className="switch-people">
              {people.data?.map((each) => (
                <Button key={each.id} variant="outline-primary" onClick={() => setPerson(each)}>
                  <span>{each.name}</span>
                  <small className="quiet">{t(`roles.${each.role}`)}</small>
                </Button>
              ))}
            </div>
            <Button variant="link" onClick={() => signOut.mutate(undefined)}>
              {t('signIn.usePassword')}
            </Button>
          </>
        )}
      </div>
    </>
  )
}

function PinPad({ person, onBack }: { person: Schemas['PersonRead']; onBack: () => void }) {
  const { t } = useTranslation()
  const navigate = useNavigate()
  const change = usePinSwitch()
  const [pin, setPin] = useState('')
  const typed = (key: string) => setPin((now) => (now + key).slice(0, MOST))
  function submit(event: FormEvent) {
    event.preventDefault()
    change.mutate({ person: person.id, pin }, { onSuccess: () => void navigate('/shift'), onError: () => setPin('') })
  }
  return (
    <Form className="sheet pin" onSubmit={submit}>
      <Form.Label htmlFor="pin">{t('signIn.pin', { name: person.name })}</Form.Label>
      <div className="pad-screen">
        <input
          id="pin"
          type="password"
          inputMode="none"
          autoComplete="off"
          autoFocus
          value={pin}
          onChange={(event) => setPin(event.target.value.replace(/\D/g, '').slice(0, MOST))}
        />
      </div>
      <div className="pad-keys">
        {[...'123456789'].map((key) => (
          <button type="button" key={key} onClick={() => typed(key)}>
            {key}
          </button>
        ))}
        <button type="button" aria-label={t('pad.delete')} onClick={() => setPin((now) => now.slice(0, -1))}>
          ⌫
        </button>
        <button type="button" onClick={() => typed('0')}>
          0
        </button>
        <Button type="submit" disabled={pin.length < 4 || change.isPending}>
          {t('signIn.go')}
        </Button>
      </div>
      <ProblemLine problem={change.error} />
      <Button variant="link" onClick={onBack}>
        {t('signIn.back')}
      </Button>
    </Form>
  )
}
