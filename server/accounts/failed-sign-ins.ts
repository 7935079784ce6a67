const remembered = 5 * 60 * 1000
const allowed = 10
const namesKept = 10_000

/** Counts failed attempts by name, so that nobody tries passwords in bulk. Times are milliseconds. */
export class FailedSignIns {
  private readonly attempts = new Map<string, number[]>()

  tooMany(name: string, now: number): boolean {
    return this.recent(name, now).length >= allowed
  }

  add(name: string, now: number): void {
    this.attempts.set(name, [...this.recent(name, now), now].slice(-allowed))
    if (this.attempts.size > namesKept) this.attempts.delete(this.attempts.keys().next().value!)
  }

  forget(name: string): void {
    this.attempts.delete(name)
  }

  private recent(name: string, now: number): number[] {
    return (this.attempts.get(name) ?? []).filter(at => now - at < remembered)
  }
}

export const failedSignIns = new FailedSignIns()
