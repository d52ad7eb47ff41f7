// @vitest-environment jsdom
import { cleanup, fireEvent, screen } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'

import { drawn } from '../../testing'
import { Picker } from './Picker'

let picked: string[]
const MANY = Array.from({ length: 50 }, (_, n) => [`k${n}`, `Thing ${n}`, n < 25 ? 'Birds' : 'Fish'] as const)
const CHOICES = [...MANY, ['duck-leg', 'Duck leg', 'Birds'], ['char', 'Ch\u00e1r, fillet', 'Fish']] as const
const list = (choices: typeof CHOICES | typeof MANY) =>
  drawn(<Picker label="Add an ingredient" choices={choices} onPick={(key) => picked.push(key)} />)
const find = () => screen.getByRole('searchbox', { name: 'Add an ingredient: find it' })
const options = () => screen.getAllByRole('option').map((each) => each.textContent)
const add = () => fireEvent.submit(find().closest('form') as HTMLFormElement)

beforeEach(() => void (picked = []))
afterEach(cleanup)

describe('a long list', () => {
  it('stands in groups', () => {
    list(CHOICES)
    expect(screen.getAllByRole('group').map((each) => each.getAttribute('label'))).toEqual(['Birds', 'Fish'])
  })

  it('is looked through by words, accents or none, and by its groups', () => {
    list(CHOICES)
    fireEvent.change(find(), { target: { value: 'char fish' } })
    expect(options()).toEqual(['Add an ingredient', 'Ch\u00e1r, fillet'])
  })

  it('gives the first that fits, and begins anew', () => {
    list(CHOICES)
    fireEvent.change(find(), { target: { value: 'duck' } })
    add()
    expect(picked).toEqual(['duck-leg'])
    expect((find() as HTMLInputElement).value).toBe('')
    add() // nothing typed, nothing chosen: nothing added
    expect(picked).toEqual(['duck-leg'])
  })

  it('says where nothing fits, and adds nothing', () => {
    list(CHOICES)
    fireEvent.change(find(), { target: { value: 'unicorn' } })
    expect(options()).toEqual(['Nothing by that name'])
    add()
    expect(picked).toEqual([])
  })

  it('gives what was chosen of those that fit', () => {
    list(CHOICES)
    fireEvent.change(find(), { target: { value: 'thing 4' } })
    fireEvent.change(screen.getByRole('combobox'), { target: { value: 'k42' } })
    add()
    expect(picked).toEqual(['k42'])
  })
})

describe('a short list', () => {
  it('needs no words', () => {
    list(MANY.slice(0, 5) as unknown as typeof MANY)
    expect(screen.queryByRole('searchbox')).toBeNull()
  })
})
