export { SignInAgain, SignInPage } from './SignInPage'
export { SwitchPage } from './SwitchPage'
export { NeedsPassword } from './NeedsPassword'
