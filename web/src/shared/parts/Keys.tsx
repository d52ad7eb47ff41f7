import { useEffect, useState } from 'react'
import { Modal } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

const ROWS = [
  ['?', 'list'],
  ['← ↑ → ↓', 'sheet'],
  ['Enter', 'open'],
  ['Alt + ← →', 'move'],
  ['Ctrl + Z', 'undo'],
  ['← →', 'chart'],
  ['0–9, Enter', 'pad'],
  ['Esc', 'close'],
] as const
const WRITTEN_IN = /^(INPUT|TEXTAREA|SELECT)$/

/** Every key that does something, on a touch of "?", unless somebody is typing. */
export function Keys() {
  const { t } = useTranslation()
  const [open, setOpen] = useState(false)
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.key !== '?' || WRITTEN_IN.test((event.target as HTMLElement).tagName)) return
      event.preventDefault()
      setOpen(true)
    }
    const ask = () => setOpen(true)
    window.addEventListener('keydown', press)
    window.addEventListener(ASKED, ask)
    return () => {
      window.removeEventListener('keydown', press)
      window.removeEventListener(ASKED, ask)
    }
  }, [])
  return (
    <Modal show={open} onHide={() => setOpen(false)} aria-labelledby="keys-title">
      <Modal.Header closeButton closeLabel={t('sheet.close')}>
        <Modal.Title id="keys-title">{t('keys.title')}</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <dl className="keys">
          {ROWS.map(([key, does]) => (
            <div key={does}>
              <dt>
                <kbd>{key}</kbd>
              </dt>
              <dd>{t(`keys.${does}`)}</dd>
            </div>
          ))}
        </dl>
      </Modal.Body>
    </Modal>
  )
}

const ASKED = 'brinefrost-keys'

/** Shows the list of keys. */
export function askKeys(): void {
  window.dispatchEvent(new Event(ASKED))
}
