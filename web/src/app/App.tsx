import { Suspense } from 'react'
import { QueryClientProvider } from '@tanstack/react-query'
import { BrowserRouter, Link, Route, Routes } from 'react-router'
import { queryClient, useIsStranger } from '../api/queries'
import { TodayScreen } from '../features/today/TodayScreen'
import { later } from '../lib/later'
import { Shell } from './Shell'

const PocketScreen = later(
  async () => (await import('../features/pocket/PocketScreen')).PocketScreen,
)
const ShelfScreen = later(async () => (await import('../features/shelf/ShelfScreen')).ShelfScreen)
const SystemScreen = later(
  async () => (await import('../features/systems/SystemScreen')).SystemScreen,
)
const SystemsScreen = later(
  async () => (await import('../features/systems/SystemsScreen')).SystemsScreen,
)
const WorkshopScreen = later(
  async () => (await import('../features/workshop/WorkshopScreen')).WorkshopScreen,
)
const PairScreen = later(async () => (await import('../features/workshop/PairScreen')).PairScreen)
const VisitScreen = later(async () => (await import('../features/visit/VisitScreen')).VisitScreen)
const GuestScreen = later(async () => (await import('../features/visit/GuestScreen')).GuestScreen)

/** The screen that a page begins with, so that it is there when it is drawn. */
export function fetchScreenOf(path: string): Promise<void> {
  return path.startsWith('/visits/') ? VisitScreen.fetch() : Promise.resolve()
}

export function App() {
  return (
    <QueryClientProvider client={queryClient}>
      <BrowserRouter>
        <Suspense fallback={null}>
          <Routes>
            <Route path="/look/:token" element={<GuestScreen />} />
            <Route path="*" element={<Home />} />
          </Routes>
        </Suspense>
      </BrowserRouter>
    </QueryClientProvider>
  )
}

/** Everything but a guest's look stands in the shell; a device that was not let in pairs first. */
function Home() {
  const isStranger = useIsStranger()
  if (isStranger) {
    return (
      <Suspense fallback={null}>
        <PairScreen />
      </Suspense>
    )
  }
  return (
    <Shell>
      <Suspense fallback={null}>
        <Routes>
          <Route path="/" element={<TodayScreen />} />
          <Route path="/systems" element={<SystemsScreen />} />
          <Route path="/systems/:systemId" element={<SystemScreen />} />
          <Route path="/shelf" element={<ShelfScreen />} />
          <Route path="/pocket" element={<PocketScreen />} />
          <Route path="/pair" element={<TodayScreen />} />
          <Route path="/workshop" element={<WorkshopScreen />} />
          <Route path="/visits/:visitId" element={<VisitScreen />} />
          <Route path="*" element={<Nowhere />} />
        </Routes>
      </Suspense>
    </Shell>
  )
}

function Nowhere() {
  return (
    <div className="p-6">
      <h1 className="text-xl">There is no such page.</h1>
      <p>
        Go to{' '}
        <Link className="underline underline-offset-4" to="/">
          Today
        </Link>
        .
      </p>
    </div>
  )
}
