import { lazy } from 'react'
import { Navigate, Route, Routes } from 'react-router'

import { NeedsPassword, SignInAgain, SignInPage, SwitchPage } from './features/session'
import { ShiftPage } from './features/shift'
import { Frame } from './shared/parts/Frame'
import { Place, useAhead } from './shared/parts/Place'
import { Waiting } from './shared/parts/Waiting'
import { lastIn, useSession } from './shared/session'
import { useLive } from './shared/live'
import { useDictionary } from './shared/words'

// the shift comes with the first load; every other place soon after it, so that it is there when the network is not
const loads = {
  batches: () => import('./features/batches/BatchesPage').then((m) => ({ default: m.BatchesPage })),
  batch: () => import('./features/batches/BatchPage').then((m) => ({ default: m.BatchPage })),
  plans: () => import('./features/plans/PlansPage').then((m) => ({ default: m.PlansPage })),
  plan: () => import('./features/plans/PlanPage').then((m) => ({ default: m.PlanPage })),
  recipe: () => import('./features/plans/recipe/RecipePage').then((m) => ({ default: m.RecipePage })),
  bench: () => import('./features/bench/BenchPage').then((m) => ({ default: m.BenchPage })),
  family: () => import('./features/bench/FamilyPage').then((m) => ({ default: m.FamilyPage })),
  household: () => import('./features/household/HouseholdPage').then((m) => ({ default: m.HouseholdPage })),
  ledger: () => import('./features/ledger/LedgerPage').then((m) => ({ default: m.LedgerPage })),
}
const pages = {
  batches: lazy(loads.batches),
  batch: lazy(loads.batch),
  plans: lazy(loads.plans),
  plan: lazy(loads.plan),
  recipe: lazy(loads.recipe),
  bench: lazy(loads.bench),
  family: lazy(loads.family),
  household: lazy(loads.household),
  ledger: lazy(loads.ledger),
}
const AHEAD_MS = 1500 // what somebody sees comes first

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
      {!person && <SignInAgain name={last.name} byPin={lastIn()?.byPin ?? false} />}
      {person && <NeedsPassword name={person.name} />}
      <Places key={last.id} />
    </>
  )
}

function Places() {
  const session = useSession().data
  const { language, temperature, length, mass } = session?.manners ?? {}
  useLive(session?.person?.id ?? '')
  useAhead(loads, AHEAD_MS)
  useDictionary(session?.person?.id ?? '', [language, temperature, length, mass].join(' '))
  return (
    <Routes>
      <Route element={<Frame />}>
        <Route index element={<Navigate to="/shift" replace />} />
        <Route path="shift" element={<ShiftPage />} />
        <Route path="switch" element={<SwitchPage />} />
        <Route path="handover" element={<SwitchPage handing />} />
        <Route path="batches" element={<Place page={pages.batches} />} />
        <Route path="batches/:batchId" element={<Place page={pages.batch} />} />
        <Route path="plans" element={<Place page={pages.plans} />} />
        <Route path="plans/recipe" element={<Place page={pages.recipe} />} />
        <Route path="plans/:planId" element={<Place page={pages.plan} />} />
        <Route path="bench" element={<Place page={pages.bench} />} />
        <Route path="bench/:family" element={<Place page={pages.family} />} />
        <Route path="household" element={<Place page={pages.household} />} />
        <Route path="ledger" element={<Place page={pages.ledger} />} />
        <Route path="*" element={<Navigate to="/shift" replace />} />
      </Route>
    </Routes>
  )
}
