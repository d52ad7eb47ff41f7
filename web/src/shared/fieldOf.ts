import type { Schemas } from './client/client'

type FieldSpec = Schemas['FieldSpec']

/** A field that a page asks for by itself, in the shape the server describes fields in; it may stay empty. */
export function fieldOf(name: string, kind: FieldSpec['kind'], low: number, high: number, show = ''): FieldSpec {
  return {
    name,
    kind,
    low,
    high,
    show,
    optional: true,
    main: false,
    columns: [],
    only: {},
    options: [],
    paper: '',
    size: 1,
  }
}
