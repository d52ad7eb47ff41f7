import { type ReactNode, useState, type FormEvent } from 'react'
import { Button, Form, Modal } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { keepKitchenWord, kitchenWord } from '../../shared/client/kitchen'
import { ProblemLine } from '../../shared/parts/ProblemLine'
import { usePinRenewal, useSession, useSignIn } from '../../shared/session'
import { heightOf } from '../../shared/quantities'
import { useUnits } from '../../shared/units'

export function SignInPage() {
  const { t } = useTranslation()
  const { temp } = useUnits()
  const site = useSession().data
  return (
    <main className="door">
      <div className="door-words">
        <svg width="64" height="64" viewBox="0 0 64 64" aria-hidden="true">
          <path d="M14 18h36M14 34h36M14 50h20" className="logo-line" />
          <circle cx="48" cy="50" r="5" fill="#fff" />
        </svg>
        <p className="door-name">Brinefrost</p>
        <p>{t('signIn.lead')}</p>
        {site?.site && (
          <p className="door-site">
            {t('shift.sub', { site: site.site, altitude: heightOf(site.altitude_m), boiling: temp(site.boiling_c) })}
          </p>
        )}
      </div>
      <SignInForm name="">
        <h1>{t('signIn.title')}</h1>
      </SignInForm>
    </main>
  )
}

/** The door again, over the page: the session has run out, what was typed has not. */
export function SignInAgain({ name, byPin }: { name: string; byPin: boolean }) {
  const { t } = useTranslation()
  const [pin, setPin] = useState(byPin)
  return (
    <Modal show centered backdrop="static" keyboard={false} aria-labelledby="again-title">
      <Modal.Body>
        {pin ? (
          <PinAgain name={name} onPassword={() => setPin(false)} />
        ) : (
          <SignInForm name={name}>
            <h2 id="again-title">{t('signIn.title')}</h2>
            <p>{t('signIn.again')}</p>
          </SignInForm>
        )}
      </Modal.Body>
    </Modal>
  )
}

/** Whoever came by PIN goes on by PIN. */
function PinAgain({ name, onPassword }: { name: string; onPassword: () => void }) {
  const { t } = useTranslation()
  const renew = usePinRenewal()
  const [pin, setPin] = useState('')
  function submit(event: FormEvent) {
    event.preventDefault()
    renew.mutate({ pin }, { onError: () => setPin('') })
  }
  return (
    <Form className="door-form" onSubmit={submit}>
      <h2 id="again-title">{t('signIn.title')}</h2>
      <p>{t('signIn.againPin')}</p>
      <Form.Group controlId="pin-again">
        <Form.Label>{t('signIn.pin', { name })}</Form.Label>
        <Form.Control
          type="password"
          inputMode="numeric"
          autoComplete="off"
          autoFocus
          required
          value={pin}
          onChange={(event) => setPin(event.target.value.replace(/\D/g, '').slice(0, 8))}
        />
      </Form.Group>
      <ProblemLine problem={renew.error} />
      <Button type="submit" disabled={pin.length < 4 || renew.isPending}>
        {t('signIn.go')}
      </Button>
      <Button variant="link" onClick={onPassword}>
        {t('signIn.usePassword')}
      </Button>
    </Form>
  )
}

/** The password, where a session opened by PIN asks for what is more than logging. */
export function PasswordDialog({ name, onDone }: { name: string; onDone: () => void }) {
  const { t } = useTranslation()
  return (
    <Modal show centered onHide={onDone} aria-labelledby="password-title">
      <Modal.Body>
        <SignInForm name={name} onDone={onDone}>
          <h2 id="password-title">{t('signIn.needPassword')}</h2>
        </SignInForm>
      </Modal.Body>
    </Modal>
  )
}

function SignInForm({
  name: known,
  children,
  onDone,
}: {
  name: string
  children: ReactNode
  onDone?: (() => void) | undefined
}) {
  const { t } = useTranslation()
  const signIn = useSignIn()
  const [name, setName] = useState(known)
  const [kitchen, setKitchen] = useState(kitchenWord)
  const asksKitchen = useSession().data?.asks_kitchen ?? false
  const [password, setPassword] = useState('')
  function submit(event: FormEvent) {
    event.preventDefault()
    if (asksKitchen) keepKitchenWord(kitchen)
    signIn.mutate({ name, password }, { onSuccess: () => onDone?.() })
  }
  return (
    <Form className="door-form" onSubmit={submit}>
      {children}
      {asksKitchen && (
        <Form.Group controlId="kitchen">
          <Form.Label>{t('signIn.kitchen')}</Form.Label>
          <Form.Control
            autoCapitalize="none"
            autoComplete="organization"
            required
            value={kitchen}
            onChange={(event) => setKitchen(event.target.value)}
          />
        </Form.Group>
      )}
      <Form.Group controlId="name">
        <Form.Label>{t('signIn.name')}</Form.Label>
        <Form.Control
          autoComplete="username"
          autoFocus={!known}
          required
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </Form.Group>
      <Form.Group controlId="password">
        <Form.Label>{t('signIn.password')}</Form.Label>
        <Form.Control
          type="password"
          autoComplete="current-password"
          autoFocus={Boolean(known)}
          required
          value={password}
          onChange={(event) => setPassword(event.target.value)}
        />
      </Form.Group>
      <ProblemLine problem={signIn.error} />
      <Button type="submit" disabled={signIn.isPending}>
        {signIn.isPending ? t('signIn.wait') : t('signIn.go')}
      </Button>
    </Form>
  )
}
