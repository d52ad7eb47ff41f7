export { ShiftPage } from './ShiftPage'
