import type { CallId } from '~~/core/calls/model'

const kept = 100

/** The callers outside whom each sign-in has played from this server, the newest {@link kept} of it. */
export class OwnCallers {
  private readonly begun = new Map<string, CallId[]>()

  add(signIn: string, call: CallId): void {
    this.begun.set(signIn, [...(this.begun.get(signIn) ?? []).slice(1 - kept), call])
  }

  has(signIn: string, call: CallId): boolean {
    return this.begun.get(signIn)?.includes(call) ?? false
  }
}
