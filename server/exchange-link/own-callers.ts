import type { CallId, DeviceId } from '~~/core/calls/model'
import { callsOf } from '~~/core/calls/questions'
import { isLoudspeakerEar } from '~~/core/sound/heard'
import type { SignedIn } from '~~/shared/people'
import { useRelay } from '../relay'

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

/**
 * Whether somebody has a telephone in their hand: their own, that of a caller whom they play, or in the demo any. A loudspeaker is set up by whoever runs the
 * company.
 */
export function mayHold(person: SignedIn, device: DeviceId, demo: boolean): boolean {
  const { replica: { state } } = useRelay()
  if (isLoudspeakerEar(device)) return demo || person.rights.includes('runCompany')
  return demo || device === person.device || Boolean(state && callsOf(state, device).some(call => isPlayedBy(person, device, call.id)))
}

/** Whoever runs the company tries its lines: as a caller of their own making, and as nobody else. */
export function isPlayedBy(person: SignedIn, device: DeviceId, call: CallId): boolean {
  const { replica, ownCallers } = useRelay()
  return person.rights.includes('runCompany') && ownCallers.has(person.signIn, call) && replica.state?.calls.get(call)?.calling === device
}
