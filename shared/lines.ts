/** Cuts a stream of bytes into lines of UTF-8. A line longer than the limit is skipped up to its end and reported once. */
export class LineReader {
  private parts: Buffer[] = []
  private size = 0
  private skipping = false

  constructor(
    private readonly longest: number,
    private readonly onLine: (line: string) => void,
    private readonly onTooLong: () => void,
  ) {}

  take(chunk: Buffer): void {
    let start = 0
    for (;;) {
      const end = chunk.indexOf(10, start)
      const piece = chunk.subarray(start, end < 0 ? undefined : end)
      this.keep(piece)
      if (end < 0) return
      this.finish()
      start = end + 1
    }
  }

  private keep(piece: Buffer): void {
    if (this.skipping || piece.length === 0) return
    this.size += piece.length
    if (this.size <= this.longest) {
      this.parts.push(piece)
      return
    }
    this.skipping = true
    this.parts = []
    this.onTooLong()
  }

  private finish(): void {
    const line = this.skipping ? '' : Buffer.concat(this.parts).toString('utf8')
    this.parts = []
    this.size = 0
    this.skipping = false
    if (line.trim()) this.onLine(line)
  }
}
