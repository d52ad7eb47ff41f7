import { createContext, useContext } from 'react'

import { useRole } from '../../shared/session'

/** Whether the plan on the page can be written at all: one that was put away is only read. */
export const Standing = createContext(true)

/** Whether whoever looks may write this plan. */
export function useMayWrite(): boolean {
  const { isLead } = useRole()
  return useContext(Standing) && isLead
}
