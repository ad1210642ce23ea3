/**
 * Follows visits for any number of pages over one connection a unit system. Each page hears every
 * event after the last it had, once, however often the connection is made anew.
 */
export type ToWorker =
  | { ask: 'follow'; visit: string; units: string; after: number | null }
  | { ask: 'leave'; visit: string; units: string }
  | { ask: 'here' }
export type ToPage =
  | { say: 'event'; visit: string; kind: string; id: number; data: string }
  | { say: 'link'; state: 'following' | 'dropped' }

type Wish = { visit: string; units: string; last: number | null }

const KINDS = ['samples', 'placement', 'visit', 'import']
/** A page that has not been heard of for this long is gone. */
const GONE_MS = 150_000
/** Wishes that come together are followed together. */
const GATHER_MS = 20

export class Follower<Page> {
  private readonly wishes = new Map<Page, { heard: number; of: Wish[] }>()
  private readonly sources = new Map<
    string,
    { source: EventSource; visits: string; last: number }
  >()
  private timer: ReturnType<typeof setTimeout> | undefined

  constructor(private readonly tell: (page: Page, message: ToPage) => void) {}

  hear(page: Page, message: ToWorker): void {
    const mine = this.wishes.get(page) ?? { heard: 0, of: [] }
    mine.heard = Date.now()
    this.wishes.set(page, mine)
    if (message.ask === 'here') return
    mine.of = mine.of.filter((one) => one.visit !== message.visit || one.units !== message.units)
    if (message.ask === 'follow') {
      mine.of.push({ visit: message.visit, units: message.units, last: message.after })
    }
    clearTimeout(this.timer)
    this.timer = setTimeout(() => this.connect(), GATHER_MS)
  }

  prune(): void {
    for (const [page, { heard }] of this.wishes) {
      if (Date.now() - heard > GONE_MS) this.wishes.delete(page)
    }
    this.connect()
  }

  /** One connection a unit system, for exactly the visits that are wanted. */
  private connect(): void {
    const wanted = new Map<string, Wish[]>()
    for (const { of } of this.wishes.values()) {
      for (const wish of of) wanted.set(wish.units, [...(wanted.get(wish.units) ?? []), wish])
    }
    for (const [units, { source }] of this.sources) {
      if (wanted.has(units)) continue
      source.close()
      this.sources.delete(units)
    }
    for (const [units, wishes] of wanted) this.follow(units, wishes)
  }

  private follow(units: string, wishes: Wish[]): void {
    const visits = [...new Set(wishes.map((one) => one.visit))].sort().join('&visit=')
    const before = this.sources.get(units)
    const resumes = wishes.flatMap((one) => (one.last === null ? [] : [one.last]))
    if (before?.visits === visits && !resumes.some((last) => last < before.last)) return
    before?.source.close()
    const from = Math.min(...resumes, before?.last ?? Infinity)
    const after = Number.isFinite(from) ? `&after=${from}` : ''
    const source = new EventSource(`/api/stream?units=${units}&visit=${visits}${after}`)
    const entry = { source, visits, last: Number.isFinite(from) ? from : 0 }
    this.sources.set(units, entry)
    source.addEventListener('hello', (event: MessageEvent) => {
      entry.last = Math.max(entry.last, Number(event.lastEventId) || 0)
      this.all(units, (page) => this.tell(page, { say: 'link', state: 'following' }))
    })
    source.addEventListener('error', () =>
      this.all(units, (page) => this.tell(page, { say: 'link', state: 'dropped' })),
    )
    for (const kind of KINDS) {
      source.addEventListener(kind, (event: MessageEvent<string>) => {
        entry.last = Math.max(entry.last, Number(event.lastEventId))
        this.pass(units, kind, event)
      })
    }
  }

  private pass(units: string, kind: string, event: MessageEvent<string>): void {
    const { visit } = JSON.parse(event.data) as { visit: string }
    const id = Number(event.lastEventId)
    for (const [page, { of }] of this.wishes) {
      const wish = of.find((one) => one.visit === visit && one.units === units)
      if (!wish || (wish.last !== null && id <= wish.last)) continue
      wish.last = id
      this.tell(page, { say: 'event', visit, kind, id, data: event.data })
    }
  }

  private all(units: string, run: (page: Page) => void): void {
    for (const [page, { of }] of this.wishes) if (of.some((one) => one.units === units)) run(page)
  }
}
