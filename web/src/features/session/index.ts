export { SignInPage } from './SignInPage'
export { SwitchPage } from './SwitchPage'
