import type { paths } from './schema'

/** What can be written, read off the API's own paths: a renamed route or field fails here. */
type Verb = 'post' | 'patch'
type JsonBody<P extends keyof paths, V extends Verb> = paths[P] extends {
  [K in V]: { requestBody: { content: { 'application/json': infer Body } } }
}
  ? Body
  : never

export type Posted = {
  [P in keyof paths]: [JsonBody<P, 'post'>] extends [never] ? never : P
}[keyof paths]
export type PostedBody<P extends Posted> = JsonBody<P, 'post'>

export type Patched = {
  [P in keyof paths]: [JsonBody<P, 'patch'>] extends [never] ? never : P
}[keyof paths]
export type PatchedBody<P extends Patched> = JsonBody<P, 'patch'>

/** What is written on a visit, under an id of its own: `callouts`, `doses` … */
export type Writing = {
  [P in Posted]: P extends `/api/visits/{visit_id}/${infer What}`
    ? What extends `${string}/${string}`
      ? never
      : PostedBody<P> extends { id: string }
        ? What
        : never
    : never
}[Posted]
export type WritingBody<W extends Writing> = Omit<
  PostedBody<Extract<Posted, `/api/visits/{visit_id}/${W}`>>,
  'id'
>

/** The path with its blanks filled in, as it is asked for under `/api`. */
export function filled(path: Posted | Patched, blanks: Record<string, string>): string {
  return path
    .replace(/^\/api/, '')
    .replace(/\{(\w+)\}/g, (_, name: string) => encodeURIComponent(blanks[name] ?? ''))
}
