import { useEffect, useState } from 'react'
import { useTranslation } from 'react-i18next'

import { nowMs } from '../clock'
import { Caller, gravest, isHeard, notify, setBadge, sound, wake } from '../heard'
import { useRole, useSession } from '../session'
import { useShift } from '../shift'
import { useUnits } from '../units'

/** What is due, late or in trouble calls whoever works here: by sound, and in words to a screen reader. */
export function Alarm() {
  const { t } = useTranslation()
  const { words } = useUnits()
  const person = useSession().data?.person
  const { mayLog } = useRole()
  const items = useShift(Boolean(person)).data?.next
  const [caller] = useState(() => new Caller())
  const [said, setSaid] = useState('')
  useEffect(() => {
    document.addEventListener('pointerdown', wake, { once: true })
    return () => document.removeEventListener('pointerdown', wake)
  }, [])
  useEffect(() => {
    if (!items) return
    setBadge(items.filter((item) => item.state === 'late' || item.state === 'trouble').length)
    const calls = caller.next(items, nowMs())
    const level = gravest(calls)
    if (!level) return
    const word = (state: string) => t(state === 'late' ? 'state.late' : state === 'due' ? 'state.due' : 'shift.trouble')
    const lines = calls.map((item) => `${word(item.state)}: ${item.code}, ${words(item.title)}`)
    // eslint-disable-next-line react-hooks/set-state-in-effect -- said once, when it comes up
    setSaid(lines.join('. '))
    if (!mayLog || !isHeard()) return
    sound(level)
    notify(lines[0] ?? '', lines.slice(1).join('\n'))
  }, [items, caller, mayLog, t, words])
  useEffect(() => () => setBadge(0), [])
  return (
    <p className="visually-hidden" role="status" aria-live="assertive">
      {said}
    </p>
  )
}
