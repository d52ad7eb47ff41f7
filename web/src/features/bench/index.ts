export { BenchPage } from './BenchPage'
export { FamilyPage } from './FamilyPage'
