import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { App } from './app/App'
import './app/styles.css'
import { loadTheRest } from './lib/later'
import { startKeys } from './state/keys'
import { startOutbox } from './state/outbox'

if (window.location.pathname.startsWith('/visits/')) {
  void import('./features/visit/VisitScreen').catch(() => undefined) // it is asked for again
}
startKeys()
startOutbox()
window.addEventListener('load', loadTheRest)

const root = document.getElementById('root')
if (root) {
  createRoot(root).render(
    <StrictMode>
      <App />
    </StrictMode>,
  )
}
