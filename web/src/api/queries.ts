import { keepPreviousData, QueryClient, useQuery, type UseQueryResult } from '@tanstack/react-query'
import { usePreferences } from '../state/preferences'
import { Broken, NoAnswer, request } from './client'
import type {
  Advice,
  Changes,
  Charts,
  Cylinder,
  Guest,
  Hit,
  Import,
  Ledger,
  Loadable,
  MethodChoice,
  Opened,
  Order,
  PocketShape,
  PressureEnthalpy,
  Records,
  Refrigerant,
  Scale,
  Series,
  Site,
  SystemPage,
  Today,
  Units,
  Visit,
  Vocabulary,
  Ways,
  WeighIn,
  Yard,
} from './types'

const RETRY_MS = 2_000

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

export const useToday = () => useLoad<Today>('today', '/today')
export const useSites = () => useLoad<Site[]>('sites', '/sites')
export const useRefrigerants = () => useLoad<Refrigerant[]>('refrigerants', '/refrigerants')
export const useVocabulary = () => useLoad<Vocabulary>('vocabulary', '/vocabulary')
export const useSystem = (id: string) => useLoad<SystemPage>('system', `/systems/${id}`, id)
export const useVisit = (id: string) => useLoad<Visit>('visit', `/visits/${id}`, id)

/** The visit's order of work, asked again whenever the visit changes. */
export function useOrder(visit: Visit): Order | null {
  const { units } = usePreferences()
  const decision = visit.assessment?.decision
  const stamp = [
    visit.state,
    visit.readings.length,
    visit.observations,
    visit.changed_at,
    decision?.key,
    decision?.stage,
  ]
  const query = useQuery<Order>({
    queryKey: ['order', visit.id, units, stamp],
    queryFn: () => request('GET', `/visits/${visit.id}/order?units=${units}`),
    placeholderData: keepPreviousData,
    refetchInterval: visit.state === 'under_way' ? 15_000 : false,
  })
  return query.data ?? null
}

export const useRecords = (id: string) =>
  useLoad<Records>('records', `/systems/${id}/records`, id, 0)

/** A visit through a link, followed every few seconds; it stops asking once the link has ended. */
export function useGuest(token: string): Loadable<Guest> {
  const { units } = usePreferences()
  const query = useQuery<Guest>({
    queryKey: ['guest', token, units],
    queryFn: () => request('GET', `/guest/${token}?units=${units}`),
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
    queryFn: () => request('GET', `/search?text=${encodeURIComponent(words)}`),
    enabled: words !== '',
    placeholderData: keepPreviousData,
    staleTime: 10_000,
  })
  return words === '' ? [] : (query.data ?? [])
}

export const usePocketShape = () => useLoad<PocketShape>('pocket', '/pocket')
export const useMethods = () => useLoad<MethodChoice[]>('methods', '/methods')
export const useCharts = (id: string) => useLoad<Charts>('charts', `/systems/${id}/charts`, id)
export const useWeighIn = (id: string) =>
  useLoad<WeighIn>('weigh-in', `/systems/${id}/weigh-in`, id)
export const usePressureEnthalpy = (fluid: string) =>
  useLoad<PressureEnthalpy>(
    'chart',
    `/refrigerants/${encodeURIComponent(fluid)}/chart`,
    fluid,
    Infinity,
  )
export const useChanges = (id: string) =>
  useLoad<Changes>('changes', `/visits/${id}/changes-of-mind`, id, 0)
export const useCylinders = () => useLoad<Cylinder[]>('cylinders', '/cylinders')
export const useLedger = () => useLoad<Ledger>('ledger', '/ledger')
export const useWays = (id: string) => useLoad<Ways>('ways', `/visits/${id}/ways`, id, 0)
export const useWorkings = (id: string) =>
  useLoad<Record<string, Opened>>('workings', `/visits/${id}/workings`, id, 0)

export const useYard = (id: string, wanted: boolean) =>
  useWhen<Yard>(['yard', id], `/visits/${id}/yard`, wanted, 2_000)
export const useImports = (id: string, wanted: boolean) =>
  useWhen<Import[]>(['imports', id], `/visits/${id}/imports`, wanted, 700)

const COLUMNS = 700

/** Traces over a span (null: all there is), thinned; while following, asked for as time goes. */
export function useSeries(
  id: string,
  span: { from: number; to: number } | null,
  points: string[],
  follows: boolean,
): Loadable<Series> {
  const { units } = usePreferences()
  const ends = span ? `&since=${Math.round(span.from)}&until=${Math.round(span.to)}` : ''
  const query = useQuery<Series>({
    queryKey: ['series', id, units, follows ? Math.round((span?.to ?? 0) / 3_000) : ends, points],
    queryFn: () => {
      const raw = new Set(points.flatMap((key) => MADE_OF[key] ?? [key]))
      const wanted = [...raw].map((key) => `&point=${key}`).join('')
      return request<Series>(
        'GET',
        `/visits/${id}/series?units=${units}&width=${COLUMNS}${ends}${wanted}`,
      )
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

/** What to do with the charge, asked again whenever the visit changes; null: nothing to judge. */
export function useNudge(visit: Visit, wanted: boolean): Advice | null {
  const { units } = usePreferences()
  const stamp = [visit.readings.length, visit.doses.length, visit.changed_at, visit.observations]
  const query = useQuery<Advice | null>({
    queryKey: ['nudge', visit.id, units, stamp],
    queryFn: () => request('GET', `/visits/${visit.id}/nudge?units=${units}`),
    enabled: wanted,
    placeholderData: keepPreviousData,
    refetchInterval: 10_000,
  })
  return query.data ?? null
}

/** The live scale of a visit since its zero, asked often while a pad is open; null: none sends. */
export function useScale(visit: Visit, since: number, removes: boolean): Scale | null {
  const { units } = usePreferences()
  const wanted = visit.live?.instruments.some((one) => one.point === 'cylinder_weight') ?? false
  const query = useQuery<Scale | null>({
    queryKey: ['scale', visit.id, units, since, removes],
    queryFn: () =>
      request('GET', `/visits/${visit.id}/scale?units=${units}&since=${since}&removes=${removes}`),
    enabled: wanted,
    refetchInterval: 700,
    gcTime: 5_000,
  })
  return query.data ?? null
}

function useWhen<T>(
  key: readonly string[],
  path: string,
  wanted: boolean,
  everyMs: number,
): Loadable<T> {
  const { units } = usePreferences()
  const query = useQuery<T>({
    queryKey: [...key, units],
    queryFn: () => request<T>('GET', `${path}?units=${units}`),
    enabled: wanted,
    refetchInterval: everyMs,
  })
  return loadable(query)
}

function useLoad<T>(name: string, path: string, id?: string, fresh?: number): Loadable<T> {
  const { units } = usePreferences()
  const query = useQuery<T>({
    ...(fresh === undefined ? {} : { staleTime: fresh }),
    queryKey: id === undefined ? [name, units] : [name, id, units],
    queryFn: () => request<T>('GET', `${path}?units=${units}`),
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
