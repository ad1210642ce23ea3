import { Follower, type ToPage, type ToWorker } from './follower'

/** Where events come from: the worker all tabs share, or, where there is none, this page itself. */
type Hears = (message: ToPage) => void
const hearers = new Set<Hears>()
let send: ((message: ToWorker) => void) | null = null

function tell(message: ToPage): void {
  for (const hear of hearers) hear(message)
}

function sender(): (message: ToWorker) => void {
  if (send !== null) return send
  try {
    const worker = new SharedWorker(new URL('./liveWorker.ts', import.meta.url), {
      type: 'module',
      name: 'nudge-live',
    })
    worker.port.onmessage = ({ data }: MessageEvent<ToPage>) => tell(data)
    worker.port.start()
    setInterval(() => worker.port.postMessage({ ask: 'here' } satisfies ToWorker), 20_000)
    send = (message) => worker.port.postMessage(message)
  } catch {
    const own = new Follower<null>((_, message) => tell(message))
    send = (message) => own.hear(null, message)
  }
  return send
}

/**
 * Follow a visit while this page can be seen; hidden, it lets go, and comes back from the last
 * event it had, so that nothing is lost and nothing comes twice.
 */
export function followVisit(visit: string, units: string, hear: Hears): () => void {
  let last: number | null = null
  const taken: Hears = (message) => {
    if (message.say === 'event') {
      if (message.visit !== visit) return
      last = message.id
    }
    hear(message)
  }
  const ask = () =>
    sender()(
      document.hidden
        ? { ask: 'leave', visit, units }
        : { ask: 'follow', visit, units, after: last },
    )
  const leave = () => sender()({ ask: 'leave', visit, units })
  hearers.add(taken)
  ask()
  document.addEventListener('visibilitychange', ask)
  window.addEventListener('pagehide', leave)
  return () => {
    leave()
    hearers.delete(taken)
    document.removeEventListener('visibilitychange', ask)
    window.removeEventListener('pagehide', leave)
  }
}
