import { lazy } from 'react'
import { Navigate, Route, Routes } from 'react-router'

import { SignInAgain, SignInPage, SwitchPage } from './features/session'
import { ShiftPage } from './features/shift'
import { Frame } from './shared/parts/Frame'
import { Waiting } from './shared/parts/Waiting'
import { lastIn, useSession } from './shared/session'
import { useLive } from './shared/live'
import { useDictionary } from './shared/words'

// the shift comes with the first load; every other place when somebody goes there
const BatchesPage = lazy(() => import('./features/batches/BatchesPage').then((m) => ({ default: m.BatchesPage })))
const BatchPage = lazy(() => import('./features/batches/BatchPage').then((m) => ({ default: m.BatchPage })))
const PlansPage = lazy(() => import('./features/plans/PlansPage').then((m) => ({ default: m.PlansPage })))
const PlanPage = lazy(() => import('./features/plans/PlanPage').then((m) => ({ default: m.PlanPage })))
const BenchPage = lazy(() => import('./features/bench/BenchPage').then((m) => ({ default: m.BenchPage })))
const FamilyPage = lazy(() => import('./features/bench/FamilyPage').then((m) => ({ default: m.FamilyPage })))
const HouseholdPage = lazy(() =>
  import('./features/household/HouseholdPage').then((m) => ({ default: m.HouseholdPage })),
)
const LedgerPage = lazy(() => import('./features/ledger/LedgerPage').then((m) => ({ default: m.LedgerPage })))

/**
 * Where somebody was signed in, the pages stay under the door: a session that runs out takes nothing that was typed.
 */
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
  const session = useSession().data
  const { language, temperature, length, mass } = session?.manners ?? {}
  useLive(session?.person?.id ?? '')
  useDictionary(session?.person?.id ?? '', [language, temperature, length, mass].join(' '))
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
