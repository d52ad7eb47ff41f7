import type { PadTarget } from '../../shared/parts/usePad'
import type { Batch, Check } from './api'

/** What the number pad is opened for to answer a check. */
export function targetOf(batch: Batch, check: Check): PadTarget {
  return {
    batchId: batch.batch_id,
    batchCode: batch.code,
    step: check.step,
    quantity: check.quantity,
    what: check.what,
    check: check.id,
    expected: [check.expected_low_c, check.expected_high_c],
  }
}
