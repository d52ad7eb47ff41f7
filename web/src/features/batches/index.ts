export { StartBatchButton } from './StartBatch'
