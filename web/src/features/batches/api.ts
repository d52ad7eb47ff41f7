import { useEffect } from 'react'

import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query'

import { answered, client, keyed, type Schemas } from '../../shared/client/client'
import { fileForm } from '../../shared/client/files'
import { usePaged } from '../../shared/client/paged'
import { useWrite } from '../../shared/client/useWrite'
import { setClock, timeOf, zone } from '../../shared/clock'
import { useBatchWrite } from '../../shared/useBatchWrite'

export type Batch = Schemas['BatchView']
export type Status = Schemas['LimitStatus']
export type Check = Schemas['Check']
export type Deviation = Schemas['DeviationView']
export type Asked = Schemas['Asked']
export type ReadingRow = Schemas['ReadingView']

const STALE = ['batch', 'batches', 'shift']
const MOST_AHEAD = 12 // open batches fetched ahead: more than one pass works at
const AHEAD_MS = 10 * 60_000 // how old what was fetched ahead may be
const AFTER_MS = 4_000 // what somebody looks at comes first

/** Batches, the newest first, as far as they were asked for. */
export function useBatches(find: string, state: string) {
  return usePaged(
    ['batches', find, state],
    (after) => {
      const query = { find, state: state as 'running' | 'trouble' | 'closed' | '', after }
      return answered(client.GET('/api/v1/batches', { params: { query } }))
    },
    60_000,
  )
}

/** The batch of a code, or the only one that words fit; asked anew, since a code reader is quicker than the list. */
export async function findBatch(typed: string): Promise<string | undefined> {
  const asked = client.GET('/api/v1/batches', { params: { query: { find: typed, state: '', after: '' } } })
  const { items } = await answered(asked).catch(() => ({ items: [] })) // nothing is found where nobody answers
  const named = items.find((batch) => batch.code.toLowerCase() === typed.toLowerCase())
  return (named ?? (items.length === 1 ? items[0] : undefined))?.batch_id
}

function batchQuery(batchId: string) {
  return {
    queryKey: ['batch', batchId],
    queryFn: async () => {
      const batch = await answered(
        client.GET('/api/v1/batches/{batch_id}', { params: { path: { batch_id: batchId } } }),
      )
      setClock(batch.now, zone())
      return batch
    },
  }
}

/** Fetches the open batches of a shift ahead, one after another, so that they too can be read without a network. */
export function useBatchesAhead(batchIds: string[]) {
  const queries = useQueryClient()
  const which = batchIds.slice(0, MOST_AHEAD).join(' ')
  useEffect(() => {
    let left = false
    const timer = setTimeout(async () => {
      for (const batchId of which.split(' ').filter(Boolean))
        if (!left) await queries.prefetchQuery({ ...batchQuery(batchId), staleTime: AHEAD_MS, retry: false })
    }, AFTER_MS)
    return () => {
      left = true
      clearTimeout(timer)
    }
  }, [which, queries])
}

export function useBatch(batchId: string) {
  return useQuery({
    ...batchQuery(batchId),
    refetchInterval: 30_000, // what is written comes by itself; time goes by all the same,
  })
}

export function useBatchSheet(batch: Batch) {
  return useQuery({
    queryKey: ['batch', batch.batch_id, 'sheet'],
    queryFn: () =>
      answered(client.GET('/api/v1/batches/{batch_id}/sheet', { params: { path: { batch_id: batch.batch_id } } })),
    refetchInterval: batch.closed ? false : 30_000,
    placeholderData: keepPreviousData,
  })
}

/** The readings of the chill under way as a question for the Bench; asked again with every reading. */
export function useAsked(batch: Batch) {
  const path = { batch_id: batch.batch_id }
  return useQuery({
    queryKey: ['batch', batch.batch_id, 'asked', batch.readings.length, batch.traces.length],
    queryFn: () => answered(client.GET('/api/v1/batches/{batch_id}/questions', { params: { path } })),
    enabled: batch.limits.some((status) => status.forecast),
    retry: false,
  })
}

export function useStartBatch() {
  return useWrite(
    (body: Schemas['BatchStart'], key) =>
      answered(client.POST('/api/v1/batches', { params: { header: keyed(key) }, body })),
    STALE,
  )
}

export interface StepMark {
  step: string
  way: 'start' | 'finish'
  /** What the button says that was touched. */
  called: string
  /** The time that was typed; null: now. */
  at: string | null
  /** When it was touched, by this tablet. */
  touched: string
  confirmed: boolean
  /** It begins while what runs goes on. */
  beside: boolean
}

export function useStepMark(batchId: string) {
  return useBatchWrite(batchId, ({ step, way, called, touched, ...body }: StepMark) => {
    const at = body.at ?? touched
    // by the server's clock while it answers; one that landed unseen is refused when it comes again: it has begun
    return { path: `steps/${step}/${way}`, body, later: { ...body, at }, text: `${called}, ${timeOf(at)}` }
  })
}

export function useRecordAction(batchId: string) {
  return useBatchWrite(batchId, (body: Schemas['ActionEntry'] & { at: string }) => ({
    path: 'actions',
    body,
    text: `${body.action}, ${timeOf(body.at)}`,
  }))
}

export function useOpenDeviation(batchId: string) {
  return useWrite(
    (body: Schemas['Unproved'], key) =>
      answered(
        client.POST('/api/v1/batches/{batch_id}/deviations', {
          params: { path: { batch_id: batchId }, header: keyed(key) },
          body,
        }),
      ),
    STALE,
  )
}

export function useDecide(batchId: string) {
  return useWrite(
    ({ deviation, ...body }: Schemas['SignedDecision'] & { deviation: string }, key) =>
      answered(
        client.POST('/api/v1/batches/{batch_id}/deviations/{deviation}/decision', {
          params: { path: { batch_id: batchId, deviation }, header: keyed(key) },
          body,
        }),
      ),
    STALE,
  )
}

export function useAnswerCheck(batchId: string) {
  return useBatchWrite(batchId, (body: Schemas['CheckAnswer']) => ({ path: 'checks/answer', body, text: body.reason }))
}

export function useCountersign(batchId: string) {
  return useWrite(
    (body: Schemas['Countersignature'], key) =>
      answered(
        client.POST('/api/v1/batches/{batch_id}/countersignature', {
          params: { path: { batch_id: batchId }, header: keyed(key) },
          body,
        }),
      ),
    [...STALE, 'ledger'],
  )
}

export function useRecall(batchId: string) {
  return useWrite(
    (body: Schemas['SignedRecall'], key) =>
      answered(
        client.POST('/api/v1/batches/{batch_id}/recall', {
          params: { path: { batch_id: batchId }, header: keyed(key) },
          body,
        }),
      ),
    [...STALE, 'ledger'],
  )
}

export function useAnswerDoubt(batchId: string) {
  return useWrite(
    (body: Schemas['SignedRecall'], key) =>
      answered(
        client.POST('/api/v1/batches/{batch_id}/doubt', {
          params: { path: { batch_id: batchId }, header: keyed(key) },
          body,
        }),
      ),
    [...STALE, 'ledger'],
  )
}

export function useWithdrawTrace(batchId: string) {
  return useWrite(
    ({ trace, ...body }: Schemas['RecallEntry'] & { trace: string }, key) =>
      answered(
        client.POST('/api/v1/batches/{batch_id}/traces/{trace}/withdrawal', {
          params: { path: { batch_id: batchId, trace }, header: keyed(key) },
          body,
        }),
      ),
    STALE,
  )
}

export interface TraceOptions {
  date_order?: 'day_first' | 'month_first' | 'year_first'
  zone?: string
  units?: Record<string, '°C' | '°F'>
  quantities?: Record<string, string>
  shift_s?: number
}

export async function previewTrace(file: File, options: TraceOptions) {
  const body = fileForm(file, { options: JSON.stringify(options) })
  // the generated type asks for a string where the browser sends the file itself
  return (await answered(client.POST('/api/v1/traces/preview', { body: body as never, bodySerializer: () => body })))
    .trace
}

export function useAttachTrace(batchId: string) {
  return useWrite(
    (
      {
        file,
        step,
        instrument,
        options,
        reason,
        confirmed,
      }: {
        file: File
        name: string
        step: string
        instrument: string
        options: TraceOptions
        reason: string
        confirmed: boolean
      },
      key,
    ) => {
      const body = fileForm(file, {
        step,
        instrument,
        options: JSON.stringify(options),
        reason,
        confirmed: String(confirmed),
      })
      return answered(
        client.POST('/api/v1/batches/{batch_id}/traces', {
          params: { path: { batch_id: batchId }, header: keyed(key) },
          body: body as never,
          bodySerializer: () => body,
        }),
      )
    },
    STALE,
  )
}

/** The channels that could measure what the steps that run ask. */
export function useProbeOffers(batchId: string, wanted: boolean) {
  return useQuery({
    queryKey: ['probes', batchId],
    queryFn: () =>
      answered(client.GET('/api/v1/batches/{batch_id}/probes', { params: { path: { batch_id: batchId } } })),
    enabled: wanted,
    refetchInterval: 5_000,
  })
}

export function useBindProbe(batchId: string) {
  return useWrite(
    (body: Schemas['BindEntry'], key) =>
      answered(
        client.POST('/api/v1/batches/{batch_id}/probes', {
          params: { path: { batch_id: batchId }, header: keyed(key) },
          body,
        }),
      ),
    STALE,
  )
}

export function useLetProbeGo(batchId: string) {
  return useWrite(
    (bound: string, key) =>
      answered(
        client.POST('/api/v1/batches/{batch_id}/probes/{bound}/release', {
          params: { path: { batch_id: batchId, bound }, header: keyed(key) },
        }),
      ),
    STALE,
  )
}
