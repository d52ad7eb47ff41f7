export { HouseholdPage } from './HouseholdPage'
