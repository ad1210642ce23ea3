import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { App, fetchScreenOf } from './app/App'
import './app/styles.css'
import { loadTheRest } from './lib/later'
import { startKeys } from './state/keys'
import { startOutbox } from './state/outbox'

const LONGEST_WAIT_MS = 600

startKeys()
startOutbox()
window.addEventListener('load', loadTheRest)

const root = document.getElementById('root')
if (root) {
  const draw = () =>
    createRoot(root).render(
      <StrictMode>
        <App />
      </StrictMode>,
    )
  // A screen that is drawn whole is drawn sooner than one that is waited for.
  const longest = new Promise((go) => setTimeout(go, LONGEST_WAIT_MS))
  void Promise.race([fetchScreenOf(window.location.pathname), longest]).then(draw)
}
