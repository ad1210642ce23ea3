import { useEffect, useSyncExternalStore } from 'react'
import { queryClient } from '../api/queries'
import { followVisit } from './link'
import { isSentFromHere } from './outbox'
import type { Units } from '../api/types'
import { serverNow } from './clock'

/**
 * What the instruments of one visit send, followed as server-sent events. The browser comes
 * back by itself after a dropped connection and names the last event it had, so the server
 * goes on from there: nothing is lost, nothing comes twice.
 */
export type LinkState = 'joining' | 'following' | 'dropped'
type Row = [at: number, value: number]
type Samples = { channels: Record<string, { point: string; rows: Row[] }> }

const KEPT_ROWS = 4_000
const REFRESH_MS = 1_500

class Feed {
  readonly rows = new Map<string, Row[]>()
  link: LinkState = 'joining'
  /** When anything was last heard from the server. */
  heardAt = serverNow()
  private readonly stop: () => void
  private listeners = new Set<() => void>()
  private stale = false
  private timer = 0

  constructor(
    readonly visitId: string,
    readonly units: Units,
  ) {
    this.stop = followVisit(visitId, units, (message) => {
      if (message.say === 'event' || message.state === 'following') this.heardAt = serverNow()
      if (message.say === 'link') this.setLink(message.state)
      else if (message.kind === 'samples') this.take(JSON.parse(message.data) as Samples)
      else {
        const { by } = JSON.parse(message.data) as { by?: string }
        if (by === undefined || !isSentFromHere(by)) this.refresh(message.kind)
      }
    })
  }

  listen(listener: () => void): () => void {
    this.listeners.add(listener)
    return () => void this.listeners.delete(listener)
  }

  close(): void {
    this.stop()
    window.clearTimeout(this.timer)
  }

  private take(samples: Samples): void {
    for (const { point, rows } of Object.values(samples.channels)) {
      if (point === '') continue
      const kept = this.rows.get(point) ?? []
      kept.push(...rows)
      if (kept.length > KEPT_ROWS) kept.splice(0, kept.length - KEPT_ROWS)
      this.rows.set(point, kept)
    }
    this.refresh('samples')
  }

  /** The visit as the server judges it follows the samples, not faster than it can be read. */
  private refresh(kind: string): void {
    if (kind !== 'samples') {
      void queryClient.invalidateQueries({ queryKey: ['visit', this.visitId] })
      void queryClient.invalidateQueries({ queryKey: ['yard', this.visitId] })
      void queryClient.invalidateQueries({ queryKey: ['tests', this.visitId] })
      void queryClient.invalidateQueries({ queryKey: ['imports', this.visitId] })
      void queryClient.invalidateQueries({ queryKey: ['zones', this.visitId] })
      return
    }
    if (this.stale) return
    this.stale = true
    this.timer = window.setTimeout(() => {
      this.stale = false
      void queryClient.invalidateQueries({ queryKey: ['visit', this.visitId] })
    }, REFRESH_MS)
  }

  private setLink(link: LinkState): void {
    this.link = link
    for (const listener of this.listeners) listener()
  }
}

let open: Feed | null = null
const openListeners = new Set<() => void>()

/** Follow a visit while the caller is on screen. */
export function useFollowing(visitId: string, units: Units, wanted: boolean): void {
  useEffect(() => {
    if (!wanted) return
    const feed = new Feed(visitId, units)
    open = feed
    for (const listener of openListeners) listener()
    return () => {
      feed.close()
      if (open === feed) open = null
      for (const listener of openListeners) listener()
    }
  }, [visitId, units, wanted])
}

/** The samples that came since the visit was opened, by point; for drawing, not for state. */
export function liveRows(point: string): readonly Row[] {
  return open?.rows.get(point) ?? []
}

/** When the server was last heard on this visit [ms]. */
export const lastHeard = () => open?.heardAt ?? serverNow()

/** Whether the connection stands. */
export function useLink(): LinkState {
  return useSyncExternalStore(
    (listener) => {
      openListeners.add(listener)
      const stop = open?.listen(listener)
      return () => {
        openListeners.delete(listener)
        stop?.()
      }
    },
    () => open?.link ?? 'joining',
  )
}
