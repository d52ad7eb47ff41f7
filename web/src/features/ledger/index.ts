export { LedgerPage } from './LedgerPage'
