import { Form, Modal } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { useQuantities } from '../reference'
import { LookKeys, PadKeys } from './PadKeys'
import { PadAnswer, PadButtons, PadFacts, PadScreen } from './PadParts'
import { type Pad, type PadTarget, pressed, usePad } from './usePad'
import { Waiting } from './Waiting'

/** Two touches and a number: the pad that logs every check. */
export function NumberPad({ target, onClose }: { target: PadTarget; onClose: () => void }) {
  const { t } = useTranslation()
  const { said } = useQuantities()
  const pad = usePad(target, onClose)
  const [low, high] = (target.expected ?? []).map((value) => said(target.quantity, value))
  return (
    <Modal
      show
      onHide={onClose}
      centered
      backdrop={pad.text ? 'static' : true}
      keyboard={!pad.text}
      aria-labelledby="pad-title"
    >
      <Modal.Header closeButton closeLabel={t('sheet.close')}>
        <div>
          <Modal.Title as="h2" id="pad-title">
            {target.what}
          </Modal.Title>
          <p className="quiet mb-0">
            {target.batchCode}
            {low && high && !pad.byEye && ` · ${t('batch.expectedBand', { low, high })}`}
          </p>
        </div>
      </Modal.Header>
      {pad.loading ? (
        <Modal.Body>
          <Waiting problem={pad.unknown} again={pad.again} />
        </Modal.Body>
      ) : (
        <Open pad={pad} />
      )}
    </Modal>
  )
}

function Open({ pad }: { pad: Pad }) {
  const { t } = useTranslation()
  const { corrects } = pad.target
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault()
        pad.send()
      }}
    >
      <Modal.Body>
        {corrects && <p>{t('pad.correcting', { value: corrects.value, time: corrects.time })}</p>}
        {pad.byEye ? (
          <LookKeys onSee={(right) => pad.send({ value: right ? 1 : 0 })} />
        ) : (
          <>
            <PadScreen pad={pad} />
            <PadKeys onPress={(key) => pad.type((now) => pressed(now, key))} />
          </>
        )}
        <PadFacts pad={pad} />
        {pad.hint && (
          <p className="hot mt-2 mb-0" role="alert">
            {pad.hint}
          </p>
        )}
        <PadAnswer pad={pad} />
      </Modal.Body>
      <Modal.Footer>
        <PadButtons pad={pad} />
      </Modal.Footer>
    </Form>
  )
}
