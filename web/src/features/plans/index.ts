export { mainSettings } from './kinds'
