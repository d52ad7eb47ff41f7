import { useEffect, useState } from 'react'
import { useTranslation } from 'react-i18next'

import { answered, client, keyed, Problem, type Schemas } from '../client/client'
import { useWrite } from '../client/useWrite'
import { momentFromClock, nowMs, timeOf } from '../clock'
import { putAside } from '../outbox'
import { useQuantities } from '../reference'
import { useInstruments, useSession } from '../session'
import { type TemperatureUnit, useUnits } from '../units'
import { offered, remember } from '../usual'

type Entry = Schemas['ReadingEntry']
const MOST_TYPED = 8

export interface PadTarget {
  batchId: string
  batchCode: string
  step: string
  quantity: Entry['quantity']
  what: string
  check?: string
  expected?: [number, number]
  corrects?: { reading: string; value: string; time: string; takenAt: string }
}

export type Pad = ReturnType<typeof usePad>

/** What stands on the pad, with what, in which unit and when it was read, and sending it. */
export function usePad(target: PadTarget, onClose: () => void) {
  const { t } = useTranslation()
  const { unit } = useUnits()
  const { info, known, unitOf, problem: unknown, again } = useQuantities()
  const [text, setText] = useState('')
  const [clock, setClock] = useState('')
  const [turned, setTurned] = useState<TemperatureUnit | null>(null) // for this reading alone
  const [hint, setHint] = useState('')
  const kit = useKit(target.quantity)
  // nothing is typed before its unit is known, nor sent with a guess of it
  const loading = known.length === 0 || kit.loading
  const write = useReading(target.batchId)
  const session = useSession().data
  const takenAt = useMoment(`${text}|${clock}|${target.check ?? ''}`)
  const byEye = info(target.quantity)?.kind === 'flag'
  const degrees = info(target.quantity)?.kind === 'temperature'
  const padUnit = degrees ? (turned ?? unit) : unitOf(target.quantity)
  useEarlyKeys(loading, setText)

  function send(over: Partial<Entry> = {}) {
    const value = over.value ?? Number(text.replace('−', '-').replace(',', '.'))
    if ((over.value === undefined && !text) || Number.isNaN(value)) return setHint(t('pad.empty'))
    if (!kit.instrument && !byEye) return setHint(t('pad.wait'))
    const moment = clock ? momentFromClock(clock) : target.corrects ? Date.parse(target.corrects.takenAt) : nowMs()
    if (moment === null) return setHint(t('pad.clockWrong'))
    setHint('')
    write.mutate(
      {
        step: target.step,
        quantity: target.quantity,
        value,
        unit: padUnit,
        taken_at: takenAt(moment),
        instrument: byEye ? 'eyes' : kit.instrument,
        check: target.check ?? '',
        corrects: target.corrects?.reading ?? null,
        confirmed: false,
        note: '',
        taken_by: session?.person?.id ?? '',
        ...over,
      },
      {
        onSuccess: () => {
          if (!byEye) remember(`instrument.${target.quantity}`, kit.instrument)
          onClose()
        },
      },
    )
  }

  /** Keep it on this tablet; it goes by itself when the server is back. Under the same key: it lands once. */
  function later() {
    if (!write.variables) return
    const { batchId, batchCode, what } = target
    const person = session?.person ? { id: session.person.id, name: session.person.name } : undefined
    const whose = person ? { person, kitchen: session?.kitchen ?? '' } : {}
    const { value, unit: in_, taken_at } = write.variables
    const text = t('outbox.entry', { what, value, unit: in_, time: timeOf(taken_at) })
    const path = `/api/v1/batches/${batchId}/readings`
    putAside({ key: write.keyOf(write.variables), batchId, batchCode, text, path, body: write.variables, ...whose })
    onClose()
  }

  /** What is typed changes: what was answered to it before goes. */
  function type(next: (now: string) => string) {
    write.reset()
    setText(next)
  }

  return {
    target, text, clock, hint, kit, loading, unknown, again, byEye, degrees, unit: padUnit,
    problem: write.error, pending: write.isPending, offline: isCode(write.error, 'offline'),
    asked: isCode(write.error, 'ask_first') ? write.error : null,
    send, later, type, setClock,
    turn: () => setTurned(padUnit === '°C' ? '°F' : '°C'),
  } // prettier-ignore
}

function isCode(problem: unknown, code: string): problem is Problem {
  return problem instanceof Problem && problem.code === code
}

/** A typed or pasted text as it may stand on the pad. */
export function typedOf(text: string): string {
  return text
    .replace('-', '−')
    .replace(/[^0-9.,−]/g, '')
    .slice(0, MOST_TYPED)
}

/** What a key of the pad makes of what stands there. */
export function pressed(now: string, key: string): string {
  if (key === '−') return now.startsWith('−') ? now.slice(1) : `−${now}`
  if (key === '.') return /[.,]/.test(now) ? now : `${now || '0'}.`
  return now.length < MOST_TYPED - 1 ? now + key : now
}

function useReading(batchId: string) {
  return useWrite(
    (body: Entry, key) =>
      answered(
        client.POST('/api/v1/batches/{batch_id}/readings', {
          params: { path: { batch_id: batchId }, header: keyed(key) },
          body,
        }),
      ),
    ['batch', 'batches', 'shift'],
    { atOnce: true }, // the pad makes room for the next reading
  )
}

/** The instruments that read it, the usual kind first, and the one chosen. */
function useKit(quantity: Entry['quantity']) {
  const instruments = useInstruments()
  const { info } = useQuantities()
  const [chosen, choose] = useState('')
  const usual = info(quantity)?.kit[0]
  const fitting = (instruments.data ?? [])
    .filter((item) => item.quantities.includes(quantity))
    .sort((a, b) => Number(b.kind === usual) - Number(a.kind === usual))
  const best = offered(fitting, `instrument.${quantity}`, (item) => Date.parse(item.due_at) > nowMs())
  return { loading: instruments.isPending, fitting, instrument: chosen || best?.id || '', choose }
}

/** The moment of a reading as it was first sent: a retry carries the same, or it would be another entry. */
function useMoment(name: string) {
  const [held, setHeld] = useState<{ for: string; at: string } | null>(null)
  return (moment: number): string => {
    if (held?.for === name) return held.at
    const at = new Date(moment).toISOString()
    setHeld({ for: name, at })
    return at
  }
}

/** Whoever is quicker than the field finds their digits in it; they are sent once they have been seen. */
function useEarlyKeys(loading: boolean, setText: (next: (now: string) => string) => void) {
  useEffect(() => {
    if (!loading) return
    function early(event: KeyboardEvent) {
      if (event.ctrlKey || event.metaKey || event.altKey) return
      if (event.key === 'Backspace') setText((now) => now.slice(0, -1))
      else if (/^[0-9.,-]$/.test(event.key)) setText((now) => (now + event.key.replace('-', '−')).slice(0, MOST_TYPED))
    }
    window.addEventListener('keydown', early)
    return () => window.removeEventListener('keydown', early)
  }, [loading, setText])
}
