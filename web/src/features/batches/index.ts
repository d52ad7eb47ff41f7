export { BatchesPage } from './BatchesPage'
export { BatchPage } from './BatchPage'
export { StartBatchButton } from './StartBatch'
