import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import { useNavigate } from 'react-router'

import { Problem } from '../../shared/client/client'
import { momentFromClock } from '../../shared/clock'
import { remember } from '../../shared/usual'
import { useStartBatch } from './api'
import { type PartChoice, type Pieces, useFit, useOffer } from './StartDetails'

const AS_PLANNED: Pieces = { thickness_m: null, start_c: null }

/** What is chosen for a new batch; another plan forgets today's pieces, parts and lots. */
export function useStarting(signed: readonly { plan_id: string }[]) {
  const { t } = useTranslation()
  const navigate = useNavigate()
  const start = useStartBatch()
  const [chosen, setChosen] = useState('')
  const [packs, setPacks] = useState('6')
  const [clock, setClock] = useState('')
  const [hint, setHint] = useState('')
  const [pieces, setPieces] = useState<Pieces>(AS_PLANNED)
  const [parts, setParts] = useState<PartChoice[]>([])
  const [lots, setLots] = useState<Record<string, string>>({})
  const planId = signed.some((plan) => plan.plan_id === chosen) ? chosen : '' // nobody's dish until it is chosen
  const { data: offer, isLoading: asking } = useOffer(planId)
  const fit = useFit(planId, pieces, Number(packs)).data

  function choose(plan: string) {
    setChosen(plan)
    setPieces(AS_PLANNED)
    setParts([])
    setLots({})
  }

  function go(confirmed: boolean) {
    const moment = clock ? momentFromClock(clock) : null
    if (clock && moment === null) return setHint(t('pad.clockWrong'))
    const at = moment === null ? null : new Date(moment).toISOString()
    const named = Object.entries(lots).filter(([, lot]) => lot.trim())
    start.mutate(
      {
        plan_id: planId,
        packs: Number(packs),
        at,
        confirmed,
        ...pieces,
        parts,
        lots: named.map(([ingredient, lot]) => ({ ingredient, lot: lot.trim() })),
      },
      {
        onSuccess: (batch) => {
          remember('plan', planId)
          void navigate(`/batches/${batch.batch_id}`)
        },
      },
    )
  }

  return {
    planId,
    choose,
    packs,
    setPacks,
    clock,
    setClock,
    hint,
    pieces,
    setPieces,
    parts,
    setParts,
    lots,
    setLots,
    offer,
    fit,
    go,
    problem: start.error,
    // whether it may be right although it looks like a slip
    asked: start.error instanceof Problem && start.error.code === 'ask_first',
    // not before the plan has said what it asks: the button would move away from under the finger
    waits: !planId || asking || start.isPending || fit?.state === 'fails',
  }
}

export type Starting = ReturnType<typeof useStarting>
