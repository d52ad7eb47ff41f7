// @vitest-environment jsdom
import { cleanup, renderHook } from '@testing-library/react'
import type { UseQueryResult } from '@tanstack/react-query'
import { afterEach, describe, expect, it } from 'vitest'

import { useFresh } from './useFresh'

const query = (ageMs: number, isFetching: boolean, failureCount = 0) =>
  ({ data: 'seen', dataUpdatedAt: Date.now() - ageMs, isFetching, failureCount }) as unknown as UseQueryResult<string>
const fresh = (of: UseQueryResult<string>) => renderHook(() => useFresh(of, 1_000)).result.current

afterEach(cleanup)

describe('a view that is acted on', () => {
  it('is never an old one while the answer is on its way', () => {
    expect(fresh(query(5_000, true))).toBeUndefined()
    expect(fresh(query(200, true))).toBe('seen')
  })

  it('is what was last seen where no answer comes', () => {
    expect(fresh(query(3_600_000, true, 1))).toBe('seen')
    expect(fresh(query(3_600_000, false))).toBe('seen')
  })

  it('stays while it is asked for again', () => {
    const { result, rerender } = renderHook((of: UseQueryResult<string>) => useFresh(of, 1_000), {
      initialProps: query(0, false),
    })
    rerender(query(0, true))
    expect(result.current).toBe('seen')
  })
})
