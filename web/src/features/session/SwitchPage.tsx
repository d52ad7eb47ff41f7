import { useState, type FormEvent } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'
import { useNavigate } from 'react-router'

import type { Schemas } from '../../shared/client/client'
import { PageBar } from '../../shared/parts/PageBar'
import { ProblemLine } from '../../shared/parts/ProblemLine'
import { useHandover, usePeople, usePinSwitch, useSession, useSignOut } from '../../shared/session'

const MOST = 8 // digits of a PIN

/** Another pair of hands takes the tablet: a name, four digits. Handing over takes the shift with it, and a note. */
export function SwitchPage({ handing = false }: { handing?: boolean }) {
  const { t } = useTranslation()
  const people = usePeople()
  const me = useSession().data?.person?.id
  const signOut = useSignOut()
  const [person, setPerson] = useState<Schemas['PersonRead'] | null>(null)
  return (
    <>
      <PageBar title={t(handing ? 'menu.handOver' : 'menu.switch')} />
      <div className="page switch">
        {person ? (
          <PinPad person={person} handing={handing} onBack={() => setPerson(null)} />
        ) : (
          <>
            <h2>{t(handing ? 'signIn.whoTakes' : 'signIn.who')}</h2>
            <div className="switch-people">
              {people.data
                ?.filter((each) => !handing || (each.id !== me && each.role !== 'reviewer'))
                .map((each) => (
                  <Button key={each.id} variant="outline-primary" onClick={() => setPerson(each)}>
                    <span>{each.name}</span>
                    <small className="quiet">{t(`roles.${each.role}`)}</small>
                  </Button>
                ))}
            </div>
            {!handing && (
              <Button variant="link" onClick={() => signOut.mutate(undefined)}>
                {t('signIn.usePassword')}
              </Button>
            )}
          </>
        )}
      </div>
    </>
  )
}

interface PinProps {
  person: Schemas['PersonRead']
  handing: boolean
  onBack: () => void
}

function PinPad({ person, handing, onBack }: PinProps) {
  const { t } = useTranslation()
  const navigate = useNavigate()
  const change = usePinSwitch()
  const over = useHandover()
  const [pin, setPin] = useState('')
  const [note, setNote] = useState('')
  const typed = (key: string) => setPin((now) => (now + key).slice(0, MOST))
  function submit(event: FormEvent) {
    event.preventDefault()
    const after = { onSuccess: () => void navigate('/shift'), onError: () => setPin('') }
    if (handing) over.mutate({ to: person.id, pin, note }, after)
    else change.mutate({ person: person.id, pin }, after)
  }
  return (
    <Form className="sheet pin" onSubmit={submit}>
      {handing && (
        <Form.Control
          as="textarea"
          rows={4}
          maxLength={2000}
          aria-label={t('signIn.note')}
          placeholder={t('signIn.note')}
          value={note}
          onChange={(event) => setNote(event.target.value)}
        />
      )}
      <Form.Label htmlFor="pin">{t('signIn.pin', { name: person.name })}</Form.Label>
      <div className="pad-screen">
        <input
          id="pin"
          type="password"
          inputMode="none"
          autoComplete="off"
          autoFocus={!handing}
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
        <Button type="submit" disabled={pin.length < 4 || change.isPending || over.isPending}>
          {t(handing ? 'signIn.takeOver' : 'signIn.go')}
        </Button>
      </div>
      <ProblemLine problem={change.error ?? over.error} />
      <Button variant="link" onClick={onBack}>
        {t('signIn.back')}
      </Button>
    </Form>
  )
}
