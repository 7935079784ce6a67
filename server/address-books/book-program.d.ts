declare module '#book-program' {
  /** The program of `book-thread.ts` with all that it needs: made by the build (`server/outside/program.ts`). */
  const program: string
  export default program
}
