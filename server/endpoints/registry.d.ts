declare module '#pages' {
  /** The addresses of all pages: made by the build from the files in `app/pages` (`pages.ts`). */
  export const pages: ReadonlySet<string>
}

declare module '#endpoints' {
  /** All endpoints that there are: made by the build from the files in `server/api` (`find.ts`). */
  export function endpoints(): import('~~/server/endpoints/document').FoundEndpoint[]
}
