/// <reference lib="webworker" />
import { Follower, type ToPage, type ToWorker } from './follower'

/** One worker for all tabs of the browser: it holds the one stream and hands events out. */
const follower = new Follower<MessagePort>((port, message: ToPage) => port.postMessage(message))

const scope = self as unknown as SharedWorkerGlobalScope
scope.onconnect = (event) => {
  const port = event.ports[0]
  if (port === undefined) return
  port.onmessage = ({ data }: MessageEvent<ToWorker>) => follower.hear(port, data)
  port.start()
}
setInterval(() => follower.prune(), 30_000)
