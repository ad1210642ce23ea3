import { QueryClientProvider } from '@tanstack/react-query'
import { BrowserRouter, Link, Route, Routes } from 'react-router'
import { queryClient } from '../api/queries'
import { PocketScreen } from '../features/pocket/PocketScreen'
import { ShelfScreen } from '../features/shelf/ShelfScreen'
import { SystemScreen } from '../features/systems/SystemScreen'
import { SystemsScreen } from '../features/systems/SystemsScreen'
import { TodayScreen } from '../features/today/TodayScreen'
import { GuestScreen } from '../features/visit/GuestScreen'
import { VisitScreen } from '../features/visit/VisitScreen'
import { Shell } from './Shell'

export function App() {
  return (
    <QueryClientProvider client={queryClient}>
      <BrowserRouter>
        <Routes>
          <Route path="/look/:token" element={<GuestScreen />} />
          <Route path="*" element={<Home />} />
        </Routes>
      </BrowserRouter>
    </QueryClientProvider>
  )
}

/** Everything but a guest's look stands in the shell. */
function Home() {
  return (
    <Shell>
      <Routes>
        <Route path="/" element={<TodayScreen />} />
        <Route path="/systems" element={<SystemsScreen />} />
        <Route path="/systems/:systemId" element={<SystemScreen />} />
        <Route path="/shelf" element={<ShelfScreen />} />
        <Route path="/pocket" element={<PocketScreen />} />
        <Route path="/visits/:visitId" element={<VisitScreen />} />
        <Route path="*" element={<Nowhere />} />
      </Routes>
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
