export { SignInAgain, SignInPage } from './SignInPage'
export { SwitchPage } from './SwitchPage'
