export { choiceKeys, kindUnless, mainSettings } from './kinds'
