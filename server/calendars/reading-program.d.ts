declare module '#reading-program' {
  /** The program of `read-thread.ts` with all that it needs: made by the build (`server/outside/program.ts`). */
  const program: string
  export default program
}
