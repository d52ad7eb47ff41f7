import { useState } from 'react'
import { useTranslation } from 'react-i18next'

import { Problem } from '../../shared/client/client'
import { momentFromClock, nowMs } from '../../shared/clock'
import { type StepMark, useStepMark } from './api'

type Marked = Omit<StepMark, 'at' | 'touched' | 'confirmed'>

/** Beginning and ending steps, now or at a clock time; what looks like a slip is asked about and sent again. */
export function useMarking(batchId: string) {
  const { t } = useTranslation()
  const mark = useStepMark(batchId)
  const [clock, setClock] = useState('')
  const [hint, setHint] = useState('')
  const [last, setLast] = useState<Marked | null>(null)

  function go(what: Marked, confirmed = false) {
    const moment = clock ? momentFromClock(clock) : null
    if (clock && moment === null) return setHint(t('pad.clockWrong'))
    setHint('')
    setLast(what)
    const at = moment === null ? null : new Date(moment).toISOString()
    const touched = new Date(nowMs()).toISOString()
    mark.mutate({ ...what, at, touched, confirmed }, { onSuccess: () => setClock('') })
  }

  const asked = mark.error instanceof Problem && mark.error.code === 'ask_first' ? last : null
  return {
    clock,
    setClock,
    hint,
    problem: mark.error,
    busy: mark.isPending,
    begin: (step: string, called: string, beside = false) => go({ step, way: 'start', called, beside }),
    finish: (step: string, called: string) => go({ step, way: 'finish', called, beside: false }),
    keepHere: mark.keepHere,
    /** Send again what was asked about; nothing where nothing was. */
    confirm: asked ? () => go(asked, true) : null,
  }
}

export type Marking = ReturnType<typeof useMarking>
