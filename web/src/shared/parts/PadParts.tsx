import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { Problem } from '../client/client'
import { nowMs, timeOf } from '../clock'
import { plusMinus } from '../quantities'
import { useUnits } from '../units'
import { ProblemLine } from './ProblemLine'
import { type Pad, typedOf } from './usePad'

/** The number as it is typed, and its unit, which turns at a touch. */
export function PadScreen({ pad }: { pad: Pad }) {
  const { t } = useTranslation()
  return (
    <div className="pad-screen">
      <input
        aria-label={pad.target.what}
        inputMode="none"
        autoComplete="off"
        autoFocus
        value={pad.text}
        onChange={(event) => {
          const { value } = event.target
          pad.type(() => typedOf(value))
        }}
      />
      <Button
        variant="link"
        className="unit"
        disabled={!pad.degrees}
        aria-label={t('pad.turn', { unit: pad.unit === '°C' ? '°F' : '°C' })}
        onClick={pad.turn}
      >
        {pad.unit}
      </Button>
    </div>
  )
}

/** What read it, and when. */
export function PadFacts({ pad }: { pad: Pad }) {
  const { t } = useTranslation()
  return (
    <div className="pad-facts">
      {!pad.byEye && (
        <Form.Group controlId="pad-instrument">
          <Form.Label>{t('pad.instrument')}</Form.Label>
          <Form.Select value={pad.kit.instrument} onChange={(event) => pad.kit.choose(event.target.value)}>
            {pad.kit.fitting.map((item) => (
              <option key={item.id} value={item.id}>
                {item.name} {plusMinus(item.uncertainty, pad.degrees ? '°C' : pad.unit)}
                {Date.parse(item.due_at) < nowMs() ? ` · ${t('pad.overdue')}` : ''}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
      )}
      <Form.Group controlId="pad-time">
        <Form.Label>{t('pad.time')}</Form.Label>
        <Form.Control
          value={pad.clock}
          placeholder={`${t('pad.now')}, ${timeOf(nowMs())}`}
          onChange={(event) => pad.setClock(event.target.value)}
        />
      </Form.Group>
    </div>
  )
}

/** What is asked about the number, or why it was not kept. */
export function PadAnswer({ pad }: { pad: Pad }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  if (!pad.asked)
    return (
      pad.problem && (
        <div className="mt-3">
          <ProblemLine problem={pad.problem} />
          <InFahrenheit pad={pad} className="mt-2" />
        </div>
      )
    )
  return (
    <div className="asked" role="alert">
      <p>{words(pad.asked.message)}</p>
      <InFahrenheit pad={pad} />
      <Button variant="outline-primary" onClick={() => pad.send({ confirmed: true })}>
        {t('pad.yes')}
      </Button>
      <Button variant="link" onClick={() => pad.type(() => '')}>
        {t('pad.change')}
      </Button>
    </div>
  )
}

/** The same number as degrees Fahrenheit, where it was likely read so. */
function InFahrenheit({ pad, className }: { pad: Pad; className?: string }) {
  const { t } = useTranslation()
  const { temp } = useUnits()
  const suggestion = pad.problem instanceof Problem ? pad.problem.fields.suggestion_c : null
  if (typeof suggestion !== 'number' || pad.unit !== '°C') return null
  return (
    <Button className={className} onClick={() => pad.send({ unit: '°F', confirmed: true })}>
      {t('pad.fahrenheit', { value: temp(suggestion) })}
    </Button>
  )
}

/** Take the last digit back, keep it, or keep it for later where the server is gone. */
export function PadButtons({ pad }: { pad: Pad }) {
  const { t } = useTranslation()
  return (
    <>
      {pad.offline && (
        <Button variant="outline-primary" className="flex-fill" onClick={pad.later}>
          {t('pad.later')}
        </Button>
      )}
      {!pad.byEye && (
        <>
          <Button variant="outline-primary" onClick={() => pad.type((now) => now.slice(0, -1))}>
            {t('pad.delete')}
          </Button>
          <Button type="submit" className="flex-fill" disabled={pad.pending || !pad.text}>
            {pad.offline ? t('pad.sendAgain') : t('pad.save')}
          </Button>
        </>
      )}
    </>
  )
}
