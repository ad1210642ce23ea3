// Before the first paint, so that a dark attic never flashes paper.
try {
  const kept = JSON.parse(localStorage.getItem('nudge.preferences') || '{}')
  document.documentElement.dataset.theme = kept.theme === 'night' ? 'night' : 'paper'
} catch {
  document.documentElement.dataset.theme = 'paper'
}
