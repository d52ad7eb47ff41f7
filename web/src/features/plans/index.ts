export { choiceKeys, mainSettings } from './kinds'
