import { useState, type FormEvent } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { whenOf } from '../../shared/clock'
import { Labelled } from '../../shared/parts/Labelled'
import { ProblemLine } from '../../shared/parts/ProblemLine'
import { useQuantities } from '../../shared/reference'
import { useAddHub, useEndHub, useHubs } from './api'

const READS = ['core', 'bath', 'air', 'ph'] as const
const MOST_CHANNELS = 16

/** What delivers by itself: hubs, recorders and meters, what each channel shows now, and how another is added. */
export function Hubs() {
  const { t } = useTranslation()
  const hubs = useHubs()
  const [token, setToken] = useState('')
  return (
    <section className="sheet" aria-label={t('household.hubs')}>
      <h2>{t('household.hubs')}</h2>
      <ProblemLine problem={hubs.error} again={() => void hubs.refetch()} />
      {hubs.data?.length === 0 && <p className="quiet">{t('household.noHubs')}</p>}
      {hubs.data?.map((hub) => (
        <HubLine key={hub.id} hub={hub} />
      ))}
      {token && (
        <div className="asked mt-3" role="alert">
          <p className="strong mb-1">{t('household.tokenOnce')}</p>
          <p className="hash mb-0">{token}</p>
        </div>
      )}
      <AddHub onAdded={setToken} />
    </section>
  )
}

type Hub = NonNullable<ReturnType<typeof useHubs>['data']>[number]

function HubLine({ hub }: { hub: Hub }) {
  const { t } = useTranslation()
  const { said } = useQuantities()
  const end = useEndHub()
  const heard = hub.ended_at
    ? t('household.hubEnded', { when: whenOf(hub.ended_at) })
    : hub.seen_at
      ? t('household.hubSeen', { when: whenOf(hub.seen_at) })
      : t('household.hubNever')
  return (
    <div className="mb-3">
      <p className="strong mb-0">{hub.name}</p>
      <p className="quiet mb-1">
        {heard}
        {Math.abs(hub.skew_s) > 5 && ` ${t('household.hubSkew', { seconds: Math.round(hub.skew_s) })}`}
      </p>
      {hub.refused > 0 && <p className="mb-1">{t('household.hubRefused', { count: hub.refused, why: hub.refusal })}</p>}
      <ul className="assumed">
        {hub.channels.map((channel) => (
          <li key={channel.id}>
            {channel.key} · {channel.name}
            {channel.value !== null && channel.value !== undefined && (
              <span className="strong"> {said(channel.quantity, channel.value)}</span>
            )}
          </li>
        ))}
      </ul>
      <ProblemLine problem={end.error} />
      {!hub.ended_at && (
        <Button variant="link" disabled={end.isPending} onClick={() => end.mutate(hub.id)}>
          {t('household.endHub')}
        </Button>
      )}
    </div>
  )
}

function AddHub({ onAdded }: { onAdded: (token: string) => void }) {
  const { t } = useTranslation()
  const add = useAddHub()
  const { info } = useQuantities()
  const [name, setName] = useState('')
  const [reads, setReads] = useState<(typeof READS)[number][]>(['core'])
  const change = (at: number, to: (typeof READS)[number]) => setReads(reads.map((each, i) => (i === at ? to : each)))
  function submit(event: FormEvent) {
    event.preventDefault()
    const channels = reads.map((quantity, at) => ({
      key: String(at + 1),
      name: `${name.trim()} ${at + 1}`,
      quantity,
      uncertainty: info(quantity)?.good_to ?? 0.5,
    }))
    const done = (made: { token: string }) => {
      onAdded(made.token)
      setName('')
      setReads(['core'])
    }
    add.mutate({ name: name.trim(), channels }, { onSuccess: done })
  }
  return (
    <Form onSubmit={submit} className="stack tight mt-3" aria-label={t('household.addHub')}>
      <h3 className="mb-0">{t('household.addHub')}</h3>
      <div className="pad-facts">
        <Labelled label={t('household.hubName')}>
          <Form.Control
            required
            minLength={2}
            maxLength={70}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </Labelled>
        {reads.map((quantity, at) => (
          <Labelled key={at} label={t('household.channelReads', { key: at + 1 })}>
            <Form.Select value={quantity} onChange={(event) => change(at, event.target.value as typeof quantity)}>
              {READS.map((each) => (
                <option key={each} value={each}>
                  {info(each)?.noun ?? each}
                </option>
              ))}
            </Form.Select>
          </Labelled>
        ))}
      </div>
      <ProblemLine problem={add.error} />
      <div>
        <Button
          variant="link"
          disabled={reads.length >= MOST_CHANNELS}
          onClick={() => setReads([...reads, reads.at(-1) ?? 'core'])}
        >
          {t('household.moreChannels')}
        </Button>
        <Button type="submit" variant="outline-primary" disabled={add.isPending}>
          {t('household.addHub')}
        </Button>
      </div>
    </Form>
  )
}
