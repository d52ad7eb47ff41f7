// @vitest-environment jsdom
import { act, cleanup, fireEvent, screen } from '@testing-library/react'
import { afterEach, expect, it } from 'vitest'

import { drawn } from '../../testing'
import { askKeys, Keys } from './Keys'

afterEach(cleanup)

it('the list of keys stands on a touch of ?, but not while somebody types', async () => {
  drawn(
    <>
      <input aria-label="A field" />
      <Keys />
    </>,
  )
  fireEvent.keyDown(screen.getByLabelText('A field'), { key: '?' })
  expect(screen.queryByRole('dialog')).toBeNull()
  fireEvent.keyDown(document.body, { key: '?' })
  expect((await screen.findByRole('dialog', { name: 'Keys' })).textContent).toContain('Enter')
})

it('the list of keys can be asked for from the menu', async () => {
  drawn(<Keys />)
  act(askKeys)
  expect(await screen.findByRole('dialog', { name: 'Keys' })).toBeTruthy()
})
