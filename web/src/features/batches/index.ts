export { useBatchesAhead } from './api'
export { StartBatchButton } from './StartBatch'
