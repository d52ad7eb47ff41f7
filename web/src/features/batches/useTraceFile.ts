import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'

import { Problem } from '../../shared/client/client'
import { LEAST_LETTERS, lettersOf } from '../../shared/reasons'
import { useInstruments, useRole } from '../../shared/session'
import { type Batch, previewTrace, type TraceOptions, useAttachTrace } from './api'

export type TraceFile = ReturnType<typeof useTraceFile>

/** A logger's file before it is kept: how it reads, which step and logger it is of, and keeping it. */
export function useTraceFile(batch: Batch, file: File, onKept: () => void) {
  const { isLead } = useRole()
  const [reason, setReason] = useState('')
  const [options, setOptions] = useState<TraceOptions>({})
  const steps = batch.blocks.filter((block) => block.started && block.takes)
  const free = steps.find((each) => !batch.traces.some((trace) => trace.step === each.step))
  const [step, setStep] = useState((free ?? steps.at(-1))?.step ?? '')
  const chosen = steps.find((each) => each.step === step)
  const loggers = useLoggers(chosen?.takes ?? '')
  const preview = useQuery({
    queryKey: ['preview', file.name, file.size, file.lastModified, options],
    queryFn: () => previewTrace(file, options),
    retry: false,
    placeholderData: (before) => before,
  })
  const attach = useAttachTrace(batch.batch_id)
  const { fields } = attach.error instanceof Problem ? attach.error : { fields: {} as Record<string, unknown> }
  const moved = Boolean(options.shift_s) // a lead's to decide, for a reason

  function read(next: TraceOptions) {
    attach.reset()
    setOptions(next)
  }

  return {
    preview, trace: preview.data, options, read, reason, setReason, isLead, steps, step, loggers,
    problem: attach.error,
    clockOff: typeof fields.suggestion_shift_s === 'number' ? fields.suggestion_shift_s : null,
    differs: fields.reason === 'differs',
    takes: chosen?.takes ?? '',
    stepName: chosen?.name ?? '',
    ready:
      Boolean(preview.data && step && loggers.chosen) &&
      !(moved && (!isLead || lettersOf(reason) < LEAST_LETTERS)) &&
      !attach.isPending &&
      !preview.isFetching,
    moveClock: (seconds: number) => read({ ...options, shift_s: (options.shift_s ?? 0) + seconds }),
    setStep: (next: string) => {
      attach.reset()
      setStep(next)
    },
    keep: (confirmed = false) =>
      attach.mutate(
        { file, name: file.name, step, instrument: loggers.chosen, options, reason: reason.trim(), confirmed },
        { onSuccess: onKept },
      ),
  } // prettier-ignore
}

/** What can have recorded a quantity: a logger first, and the one chosen. */
function useLoggers(quantity: string) {
  const instruments = useInstruments()
  const [id, choose] = useState('')
  const all = (instruments.data ?? []).filter((item) => item.quantities.includes(quantity))
  const likely = all.find((item) => item.kind === 'logger') ?? all[0]
  return { all, chosen: (all.find((item) => item.id === id) ?? likely)?.id ?? '', choose }
}
