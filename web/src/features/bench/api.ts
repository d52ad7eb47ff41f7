import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query'

import { answered, client, keyed, type Problem, type Schemas } from '../../shared/client/client'
import { fileForm } from '../../shared/client/files'
import { everyPage } from '../../shared/client/paged'
import { useWrite } from '../../shared/client/useWrite'

export type Family = Schemas['FamilyRead']
export type FieldSpec = Schemas['FieldSpec']
export type Answer = Schemas['BenchAnswer']
export type Figure = Schemas['Figure']
export type Picture = Answer['pictures'][number]
export type KeptAnswer = Schemas['KeptAnswer']
export type Question = Record<string, unknown>
export type Row = Record<string, unknown>

export function useFamilies() {
  return useQuery({ queryKey: ['bench'], queryFn: () => answered(client.GET('/api/v1/bench')), staleTime: 3_600_000 })
}

/** The answer to a question. The last one stays on screen until the next is there. */
export function useAnswer(family: string, question: Question | null) {
  return useQuery({
    queryKey: ['bench', family, question],
    // every family answers in the same shape; the path alone differs
    queryFn: ({ signal }) =>
      answered(client.POST(`/api/v1/bench/${family}` as '/api/v1/bench/heat', { body: question as never, signal })),
    enabled: question !== null,
    placeholderData: keepPreviousData,
    retry: false,
    staleTime: 600_000,
    gcTime: 60_000,
  })
}

/** Rows of a question from a logger file, which is not kept. */
export function useRowsFromFile(family: string, field: string) {
  return useMutation<Schemas['FileRows'], Problem, { file: File; channel: string | null }>({
    mutationFn: ({ file, channel }) => {
      const body = fileForm(file, { family, field, ...(channel === null ? {} : { channel }) })
      return answered(client.POST('/api/v1/bench/rows', { body: body as never, bodySerializer: () => body }))
    },
    networkMode: 'always',
    retry: false,
  })
}

export function useKept() {
  const ask = (after: string | null) => answered(client.GET('/api/v1/bench/kept', { params: { query: { after } } }))
  return useQuery({ queryKey: ['kept'], queryFn: () => everyPage(ask) })
}

export function useKeep() {
  return useWrite(
    (body: Schemas['KeepAnswer'], key) =>
      answered(client.POST('/api/v1/bench/kept', { params: { header: keyed(key) }, body })),
    ['kept'],
  )
}

export function useDiscardKept() {
  return useWrite(
    (id: string, key) =>
      answered(
        client.DELETE('/api/v1/bench/kept/{kept_id}', { params: { path: { kept_id: id }, header: keyed(key) } }),
      ),
    ['kept'],
  )
}
