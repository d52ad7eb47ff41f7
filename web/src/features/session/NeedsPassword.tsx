import { useSyncExternalStore } from 'react'

import { passwordAsked, passwordSettled, whenPasswordAsked } from '../../shared/client/passwordNeeded'
import { PasswordDialog } from './SignInPage'

/** Comes up where a session opened by PIN was refused what is more than logging; then the same can be sent again. */
export function NeedsPassword({ name }: { name: string }) {
  const asked = useSyncExternalStore(whenPasswordAsked, passwordAsked, () => false)
  return asked ? <PasswordDialog name={name} onDone={passwordSettled} /> : null
}
