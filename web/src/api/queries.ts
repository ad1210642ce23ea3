import { keepPreviousData, QueryClient, useQuery, type UseQueryResult } from '@tanstack/react-query'
import { usePreferences } from '../state/preferences'
import { api, Broken, got, NoAnswer, Refused } from './client'
import type { Guest, Hit, Loadable, Scale, Series, Standing, Units, Visit } from './types'

const RETRY_MS = 2_000
const UNDER_WAY_MS = (visit: Standing | undefined) =>
  visit?.state === 'under_way' ? 15_000 : false

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 5_000,
      networkMode: 'always', // the server is on this machine: being offline does not matter
      retry: (count, error) => error instanceof NoAnswer || (error instanceof Broken && count < 3),
      retryDelay: RETRY_MS,
    },
  },
})

export const visitKey = (id: string, units: Units) => ['visit', id, units] as const

const at = (units: Units) => ({ params: { query: { units } } })
const of = <Path extends object>(path: Path, units: Units) => ({
  params: { path, query: { units } },
})

export const useToday = () => useLoad('today', (units) => api.GET('/api/today', at(units)))
export const useSites = () => useLoad('sites', (units) => api.GET('/api/sites', at(units)))
export const useRefrigerants = () => useLoad('refrigerants', () => api.GET('/api/refrigerants'))
export const useVocabulary = () =>
  useLoad('vocabulary', (units) => api.GET('/api/vocabulary', at(units)))
export const useSystem = (id: string) =>
  useLoad('system', (units) => api.GET('/api/systems/{system_id}', of({ system_id: id }, units)), {
    id,
  })

/** The visit with its order of work and its nudge: one answer, which every write brings anew. */
export const useVisit = (id: string) =>
  useLoad('visit', (units) => api.GET('/api/visits/{visit_id}', of({ visit_id: id }, units)), {
    id,
    every: UNDER_WAY_MS,
  })

export const useRecords = (id: string) =>
  useLoad(
    'records',
    (units) => api.GET('/api/systems/{system_id}/records', of({ system_id: id }, units)),
    { id, fresh: 0 },
  )

/** A visit through a link, followed every few seconds; it stops asking once the link has ended. */
export function useGuest(token: string): Loadable<Guest> {
  const { units } = usePreferences()
  const query = useQuery<Guest>({
    queryKey: ['guest', token, units],
    queryFn: () => got(api.GET('/api/guest/{token}', of({ token }, units))),
    refetchInterval: (state) => (state.state.error ? false : 4_000),
    retry: false,
  })
  if (query.error) return { status: 'error', message: query.error.message }
  return loadable(query)
}

/** Sites, systems and visits that hold every word; nothing for no words. */
export function useSearch(text: string): Hit[] {
  const words = text.trim()
  const query = useQuery<Hit[]>({
    queryKey: ['search', words],
    queryFn: () => got(api.GET('/api/search', { params: { query: { text: words } } })),
    enabled: words !== '',
    placeholderData: keepPreviousData,
    staleTime: 10_000,
  })
  return words === '' ? [] : (query.data ?? [])
}

export const usePocketShape = () => useLoad('pocket', (units) => api.GET('/api/pocket', at(units)))
/** Whether this device was let in. Nobody is turned away while the server does not answer. */
export function useIsStranger(): boolean {
  const query = useQuery({
    queryKey: ['me'],
    queryFn: () => got(api.GET('/api/me')),
    refetchInterval: 60_000,
  })
  return query.error instanceof Refused && query.error.status === 401
}

export const useDevices = () =>
  useLoad('devices', () => api.GET('/api/devices'), { every: () => 5_000 })
export const useMe = () => useLoad('me-named', () => api.GET('/api/me'))
export const useHealth = () =>
  useLoad('health', () => api.GET('/api/health'), { every: () => 20_000 })
export const useBundles = () => useLoad('bundles', () => api.GET('/api/bundles'))
export const useCopies = () => useLoad('copies', () => api.GET('/api/workshop/copies'))
export const useWorkshop = () => useLoad('workshop', () => api.GET('/api/workshop'))
export const useInstruments = () =>
  useLoad('register', (units) => api.GET('/api/workshop/instruments', at(units)))
export const useMethods = () => useLoad('methods', () => api.GET('/api/methods'))
export const useCharts = (id: string) =>
  useLoad(
    'charts',
    (units) => api.GET('/api/systems/{system_id}/charts', of({ system_id: id }, units)),
    { id },
  )
export const useCompare = (id: string, one: string, other: string) =>
  useLoad(
    'compare',
    (units) =>
      api.GET('/api/systems/{system_id}/compare', {
        params: { path: { system_id: id }, query: { units, one, other } },
      }),
    { id: `${id} ${one} ${other}` },
  )
export const useWeighIn = (id: string) =>
  useLoad(
    'weigh-in',
    (units) => api.GET('/api/systems/{system_id}/weigh-in', of({ system_id: id }, units)),
    { id },
  )
export const usePressureEnthalpy = (fluid: string) =>
  useLoad(
    'chart',
    (units) => api.GET('/api/refrigerants/{name}/chart', of({ name: fluid }, units)),
    { id: fluid, fresh: Infinity },
  )
export const useChanges = (id: string) =>
  useLoad(
    'changes',
    (units) => api.GET('/api/visits/{visit_id}/changes-of-mind', of({ visit_id: id }, units)),
    { id, fresh: 0 },
  )
export const useCylinders = () =>
  useLoad('cylinders', (units) => api.GET('/api/cylinders', at(units)))
export const useLedger = () => useLoad('ledger', (units) => api.GET('/api/ledger', at(units)))
export const useMachineSettings = (id: string) =>
  useLoad(
    'settings',
    () => api.GET('/api/visits/{visit_id}/settings', { params: { path: { visit_id: id } } }),
    { id, fresh: 0 },
  )
export const useWays = (id: string) =>
  useLoad('ways', (units) => api.GET('/api/visits/{visit_id}/ways', of({ visit_id: id }, units)), {
    id,
    fresh: 0,
  })
export const useWorkings = (id: string) =>
  useLoad(
    'workings',
    (units) => api.GET('/api/visits/{visit_id}/workings', of({ visit_id: id }, units)),
    { id, fresh: 0 },
  )

export const useYard = (id: string, wanted: boolean) =>
  useLoad('yard', (units) => api.GET('/api/visits/{visit_id}/yard', of({ visit_id: id }, units)), {
    id,
    wanted,
    every: () => 2_000,
  })
/** Tests with time, judged anew every few seconds while one runs. */
export const useTests = (id: string, runs: boolean, wanted = true) =>
  useLoad(
    'tests',
    (units) => api.GET('/api/visits/{visit_id}/tests', of({ visit_id: id }, units)),
    {
      id,
      wanted,
      fresh: 0,
      every: () => (runs ? 4_000 : false),
    },
  )
export const useImports = (id: string, wanted: boolean) =>
  useLoad(
    'imports',
    () => api.GET('/api/visits/{visit_id}/imports', { params: { path: { visit_id: id } } }),
    { id, wanted, every: () => 700 },
  )

/** A multi-zone plant’s log, read; asked for again when what it is read as becomes another. */
export const useZones = (id: string, state: string | null) =>
  useLoad(
    'zones',
    (units) => api.GET('/api/visits/{visit_id}/zones', of({ visit_id: id }, units)),
    { id, wanted: state !== null, fresh: 60_000 },
  )

const COLUMNS = 700
const ZONE = Intl.DateTimeFormat().resolvedOptions().timeZone

/** Traces over a span (null: all there is), thinned; while following, asked for as time goes. */
export function useSeries(
  id: string,
  span: { from: number; to: number } | null,
  points: string[],
  follows: boolean,
  frame: 'hand' | 'desk',
): Loadable<Series> {
  const { units } = usePreferences()
  const ends = span ? { since: Math.round(span.from), until: Math.round(span.to) } : {}
  const query = useQuery<Series>({
    queryKey: [
      'series',
      id,
      units,
      follows ? Math.round((span?.to ?? 0) / 3_000) : ends,
      points,
      frame,
    ],
    queryFn: () => {
      const raw = new Set(points.flatMap((key) => MADE_OF[key] ?? [key]))
      const asked = { units, width: COLUMNS, point: [...raw], frame, zone: ZONE, ...ends }
      const params = { path: { visit_id: id }, query: asked }
      return got(api.GET('/api/visits/{visit_id}/series', { params }))
    },
    placeholderData: keepPreviousData,
    gcTime: 10_000,
    staleTime: follows ? 0 : 30_000,
  })
  return loadable(query)
}

/** What the server needs to work a number out along a span. */
const MADE_OF: Record<string, string[]> = {
  superheat: ['suction_pressure', 'suction_line_temp'],
  subcooling: ['liquid_pressure', 'liquid_line_temp'],
}

/** The live scale of a visit since its zero, asked often while a pad is open; null: none sends. */
export function useScale(visit: Visit, since: number, removes: boolean): Scale | null {
  const { units } = usePreferences()
  const wanted = visit.live?.instruments.some((one) => one.point === 'cylinder_weight') ?? false
  const query = useQuery<Scale | null>({
    queryKey: ['scale', visit.id, units, since, removes],
    queryFn: () =>
      got(
        api.GET('/api/visits/{visit_id}/scale', {
          params: { path: { visit_id: visit.id }, query: { units, since, removes } },
        }),
      ),
    enabled: wanted,
    refetchInterval: 700,
    gcTime: 5_000,
  })
  return query.data ?? null
}

type Options<T> = {
  id?: string
  /** For how long it is fresh [ms]. */
  fresh?: number
  wanted?: boolean
  /** How often it is asked again while it is on screen [ms]. */
  every?: (found: T | undefined) => number | false
}

function useLoad<T>(
  name: string,
  ask: (units: Units) => Promise<{ data?: T }>,
  { id, fresh, wanted = true, every }: Options<T> = {},
): Loadable<T> {
  const { units } = usePreferences()
  const query = useQuery<T>({
    ...(fresh === undefined ? {} : { staleTime: fresh }),
    ...(every === undefined ? {} : { refetchInterval: (state) => every(state.state.data) }),
    queryKey: id === undefined ? [name, units] : [name, id, units],
    queryFn: () => got(ask(units)),
    enabled: wanted,
  })
  return loadable(query)
}

function loadable<T>(query: UseQueryResult<T>): Loadable<T> {
  if (query.data !== undefined) {
    return { status: 'ready', data: query.data, refreshing: query.isFetching }
  }
  const failure = query.error ?? query.failureReason
  return failure ? { status: 'error', message: failure.message } : { status: 'pending' }
}
