import { Button, Modal } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { ProblemLine } from '../../shared/parts/ProblemLine'
import type { Batch } from './api'
import { Channels } from './TraceChannels'
import { Assumed, ClockMoved, LeftOut, OfWhat, Refused, Span } from './TraceParts'
import { useTraceFile } from './useTraceFile'

/** How a file was read, what was assumed, and the chance to correct it before it is kept. */
export function TraceDialog({ batch, file: chosen, onClose }: { batch: Batch; file: File; onClose: () => void }) {
  const { t } = useTranslation()
  const file = useTraceFile(batch, chosen, onClose)
  const { trace } = file
  return (
    <Modal show onHide={onClose} size="lg" centered scrollable aria-labelledby="trace-title">
      <Modal.Header closeButton closeLabel={t('sheet.close')}>
        <Modal.Title as="h2" id="trace-title">
          {t('trace.title', { name: chosen.name })}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body className="stack">
        {file.preview.isPending && (
          <p role="status" className="quiet">
            {t('trace.reading')}
          </p>
        )}
        <ProblemLine problem={file.preview.error} />
        {trace && (
          <>
            <Span trace={trace} />
            <ClockMoved file={file} />
            <Refused file={file} />
            <Channels channels={trace.channels} options={file.options} onChange={file.read} />
            <Assumed file={file} trace={trace} />
            <LeftOut notes={trace.notes} />
            <OfWhat file={file} />
          </>
        )}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="link" onClick={onClose}>
          {t('trace.cancel')}
        </Button>
        <Button disabled={!file.ready} onClick={() => file.keep()}>
          {t('trace.attach', { name: file.stepName })}
        </Button>
      </Modal.Footer>
    </Modal>
  )
}
