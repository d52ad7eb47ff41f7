import { Navigate, Route, Routes } from 'react-router'

import { BatchPage, BatchesPage } from './features/batches'
import { BenchPage, FamilyPage } from './features/bench'
import { HouseholdPage } from './features/household'
import { LedgerPage } from './features/ledger'
import { PlanPage, PlansPage } from './features/plans'
import { SignInAgain, SignInPage, SwitchPage } from './features/session'
import { ShiftPage } from './features/shift'
import { Frame } from './shared/parts/Frame'
import { Waiting } from './shared/parts/Waiting'
import { lastIn, useSession } from './shared/session'

/** Where somebody was signed in, the pages stay under the door: a session that runs out takes nothing that was typed. */
export function App() {
  const session = useSession()
  if (!session.data) return <Waiting problem={session.error} again={() => void session.refetch()} />
  const { person } = session.data
  const last = person ?? lastIn()
  if (!last) return <SignInPage />
  return (
    <>
      {!person && <SignInAgain name={last.name} />}
      <Places key={last.id} />
    </>
  )
}

function Places() {
  return (
    <Routes>
      <Route element={<Frame />}>
        <Route index element={<Navigate to="/shift" replace />} />
        <Route path="shift" element={<ShiftPage />} />
        <Route path="switch" element={<SwitchPage />} />
        <Route path="batches" element={<BatchesPage />} />
        <Route path="batches/:batchId" element={<BatchPage />} />
        <Route path="plans" element={<PlansPage />} />
        <Route path="plans/:planId" element={<PlanPage />} />
        <Route path="bench" element={<BenchPage />} />
        <Route path="bench/:family" element={<FamilyPage />} />
        <Route path="household" element={<HouseholdPage />} />
        <Route path="ledger" element={<LedgerPage />} />
        <Route path="*" element={<Navigate to="/shift" replace />} />
      </Route>
    </Routes>
  )
}
