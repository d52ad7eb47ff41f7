// @vitest-environment jsdom
import { cleanup, fireEvent, screen } from '@testing-library/react'
import { useState } from 'react'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'

import { fieldOf } from '../../shared/fieldOf'
import { setUnit } from '../../shared/units'
import { drawn } from '../../testing'
import type { FieldSpec, Row } from './api'
import { RowsInput } from './RowsInput'

const TIME = { ...fieldOf('time_s', 'time', 0, 86400, 'min'), optional: false } as FieldSpec
const CORE = { ...fieldOf('core_c', 'temperature', -5, 100), optional: false } as FieldSpec
const SPEC = { ...fieldOf('readings', 'number', 0, 1), kind: 'rows', columns: [TIME, CORE] } as unknown as FieldSpec

let kept: Row[] = []
function Held({ first }: { first: Row[] }) {
  const [rows, setRows] = useState(first)
  kept = rows
  return <RowsInput spec={SPEC} family="fit" rows={rows} onChange={setRows} />
}
const row = (minutes: number, core_c: number): Row => ({ time_s: 60 * minutes, core_c })
const fields = () => screen.getAllByRole<HTMLInputElement>('textbox')

beforeEach(() => localStorage.clear())
afterEach(cleanup)

describe('rows', () => {
  it('go on by the last spacing, as warm as the last', () => {
    drawn(<Held first={[row(0, 60), row(15, 42)]} />)
    fireEvent.click(screen.getByRole('button', { name: 'Add a row' }))
    expect(kept.at(-1)).toEqual(row(30, 42))
  })

  it('begin with what a field says by itself', () => {
    drawn(<Held first={[]} />)
    fireEvent.click(screen.getByRole('button', { name: 'Add a row' }))
    expect(kept).toEqual([{ time_s: 0, core_c: -5 }])
  })

  it('that are taken away take nobody else’s half-typed number with them', () => {
    drawn(<Held first={[row(0, 60), row(15, 42), row(30, 20)]} />)
    fireEvent.change(fields()[3]!, { target: { value: '4x' } })
    expect(screen.getByRole('alert')).toBeTruthy()
    fireEvent.click(screen.getByRole('button', { name: /row 2/i }))
    expect(kept).toEqual([row(0, 60), row(30, 20)])
    expect(screen.queryByRole('alert')).toBeNull()
    expect(fields()[3]!.value).toBe('20')
  })

  it('of many show the ends until all are asked for', () => {
    drawn(<Held first={Array.from({ length: 20 }, (_, i) => row(i, 60 - i))} />)
    expect(fields()).toHaveLength(2 * 6)
    fireEvent.click(screen.getByRole('button', { expanded: false }))
    expect(fields()).toHaveLength(2 * 20)
    fireEvent.click(screen.getByRole('button', { expanded: true }))
    expect(fields()).toHaveLength(2 * 6)
  })
})

describe('a number', () => {
  it('is kept inside, read in the person’s unit', () => {
    setUnit('temperature', '°F')
    drawn(<Held first={[row(0, 60)]} />)
    expect(fields()[1]!.value).toBe('140')
    fireEvent.change(fields()[1]!, { target: { value: '68' } })
    expect(kept[0]!.core_c).toBeCloseTo(20, 9)
  })

  it('beyond what can be is said and not kept; what was meant is one touch away', () => {
    drawn(<Held first={[row(0, 60)]} />)
    fireEvent.change(fields()[1]!, { target: { value: '140' } })
    expect(kept[0]!.core_c).toBe(60)
    expect(screen.getByRole('alert').textContent).toMatch(/100/)
    fireEvent.click(screen.getByRole('button', { name: /°F/ }))
    expect(kept[0]!.core_c).toBeCloseTo(60, 6)
  })

  it('with nothing in it is asked for and leaves what was', () => {
    drawn(<Held first={[row(0, 60)]} />)
    fireEvent.change(fields()[1]!, { target: { value: '' } })
    expect(screen.getByRole('alert')).toBeTruthy()
    expect(kept[0]!.core_c).toBe(60)
  })
})
