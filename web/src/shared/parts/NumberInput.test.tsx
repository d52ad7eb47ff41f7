// @vitest-environment jsdom
import { cleanup, fireEvent, screen } from '@testing-library/react'
import { useState } from 'react'
import { afterEach, describe, expect, it, vi } from 'vitest'

import { drawn } from '../../testing'
import type { Schemas } from '../client/client'
import { setUnit } from '../units'
import { NumberInput } from './NumberInput'

type Spec = Schemas['FieldSpec']
const spec = (more: Partial<Spec>): Spec =>
  ({ name: 'core', kind: 'temperature', low: 40, high: 100, optional: false, show: '', ...more }) as Spec

/** A field as it stands in a form: what it gives comes back to it. */
function Held({
  of,
  from,
  home,
  heard,
}: {
  of: Spec
  from: number | null
  home?: number
  heard: (v: unknown) => void
}) {
  const [value, setValue] = useState(from)
  return (
    <NumberInput
      id="it"
      spec={of}
      label="It"
      value={value}
      home={home}
      onChange={(next) => {
        heard(next)
        setValue(next)
      }}
    />
  )
}

function field(of: Spec, from: number | null, home?: number) {
  const heard = vi.fn()
  drawn(<Held of={of} from={from} heard={heard} {...(home === undefined ? {} : { home })} />)
  const input = screen.getByRole<HTMLInputElement>('textbox')
  return {
    input,
    heard,
    type: (text: string) => fireEvent.change(input, { target: { value: text } }),
    last: () => heard.mock.calls.at(-1)?.[0] as unknown,
  }
}

afterEach(() => {
  cleanup()
  for (const [kind, unit] of [['temperature', '°C'], ['length', 'mm'], ['mass', 'g']] as const) setUnit(kind, unit as never) // prettier-ignore
})

describe('a number in a form', () => {
  it('is sent in the inside unit and shown in the person’s', () => {
    setUnit('temperature', '°F')
    const { input, type, last } = field(spec({}), 60)
    expect(input.value).toBe('140')
    type('145')
    expect(last()).toBeCloseTo((145 - 32) / 1.8, 9)
    expect(input.value).toBe('145') // as it was typed, not as it comes back
    fireEvent.blur(input)
    expect(input.value).toBe('145')
  })

  it('is not sent while it is out of bounds, and says the bounds and the unit it may have been', () => {
    const { type, heard } = field(spec({}), 60)
    type('145')
    expect(heard).not.toHaveBeenCalled()
    expect(screen.getByRole('alert').textContent).toContain('from 40 to 100 °C')
    fireEvent.click(screen.getByRole('button')) // it is °F
    expect(heard.mock.calls.at(-1)?.[0]).toBeCloseTo(62.7778, 3)
    expect(screen.queryByRole('alert')).toBeNull()
  })

  it('keeps what is wrong when it is left, so that it can be mended', () => {
    const { input, type } = field(spec({}), 60)
    type('6')
    fireEvent.blur(input)
    expect(input.value).toBe('6')
    expect(screen.getByRole('alert')).toBeTruthy()
  })

  it('that may be missing is missing when it is emptied, and not nought', () => {
    const { type, last } = field(spec({ kind: 'percent', low: 0, high: 30, optional: true }), 3)
    type('')
    expect(last()).toBeNull()
    expect(screen.queryByRole('alert')).toBeNull()
    type('  ')
    expect(last()).toBeNull()
  })

  it('that may not be missing is wrong when it is emptied, and nothing is sent', () => {
    const { type, heard } = field(spec({ kind: 'percent', low: 0, high: 30 }), 3)
    type('')
    expect(heard).not.toHaveBeenCalled()
    expect(screen.getByRole('alert')).toBeTruthy()
  })

  it.each([
    ['length', '1 1/4 in', 0.03175],
    ['length', '32', 0.032],
    ['time', '1:30', 5400],
    ['mass', '1 lb', 0.45359237],
  ])('of %s takes “%s”', (kind, text, inside) => {
    const { type, last } = field(spec({ kind: kind as Spec['kind'], low: 0, high: 1e6 }), 1)
    type(text)
    expect(last()).toBeCloseTo(inside, 9)
  })

  it('kept in a unit of its own, days or grams, is asked in the person’s and kept in that', () => {
    const { input, type, last } = field(spec({ kind: 'time', show: 'd', size: 86400, low: 0, high: 90 }), 3)
    expect(input.value).toBe('3')
    type('1 w')
    expect(last()).toBe(7)
    type('91')
    expect(screen.getByRole('alert').textContent).toContain('0 to 90 d')
  })

  it('exactly at its bounds is within them, in any unit', () => {
    setUnit('temperature', '°F')
    const { type, last } = field(spec({ low: 57.2, high: 74 }), 60)
    type('134.96') // 57.2 °C
    expect(last()).toBeCloseTo(57.2, 9)
    type('165.2') // 74 °C
    expect(last()).toBeCloseTo(74, 9)
    expect(screen.queryByRole('alert')).toBeNull()
  })
})

describe('the slider beside it', () => {
  it('goes around where the question began, within the bounds', () => {
    const { last } = field(spec({ step: 0.5 }), 60, 60)
    const slider = screen.getByRole<HTMLInputElement>('slider')
    expect([slider.min, slider.max]).toEqual(['40', '90'])
    fireEvent.change(slider, { target: { value: '62.5' } })
    expect(last()).toBe(62.5)
    expect(slider.getAttribute('aria-valuetext')).toBe('62.5 °C')
  })

  it('takes in what was typed beyond it', () => {
    const { type } = field(spec({ kind: 'length', low: 0.003, high: 0.4 }), 0.03, 0.03)
    const slider = screen.getByRole<HTMLInputElement>('slider')
    expect(Number(slider.max)).toBeCloseTo(0.075)
    type('200')
    expect(Number(slider.max)).toBeCloseTo(0.2)
  })

  it('writes the field anew, whatever was half typed in it', () => {
    const { input, type } = field(spec({}), 60, 60)
    type('6')
    fireEvent.change(screen.getByRole('slider'), { target: { value: '63' } })
    expect(input.value).toBe('63')
    expect(screen.queryByRole('alert')).toBeNull()
  })
})
