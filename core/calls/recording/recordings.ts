import { lookUp } from '../../company/lookups'
import type { RecordingRule } from '../../company/company'
import type { Call, CallEvent, DeviceId, ExchangeState } from '../model'
import { connectionOf, isConversation, leavesMessage } from '../questions'
import { unliftedIn } from '../paging/intercom'

/**
 * A call is recorded when somebody in it has asked for it, or always, as its line says. Everybody in it hears a tone and sees it. What is recorded is what
 * those who talk say to each other: nothing while somebody is on hold, no whisper, nothing that is asked about a caller.
 */

/** Whether calls on its line are recorded: always, never, or when somebody asks; calls without a line when somebody asks. */
export function recordingRuleOf({ company }: ExchangeState, { line }: Call): RecordingRule {
  return (line === null ? undefined : lookUp(company.lines, line))?.recording ?? 'onRequest'
}

export function mayRecord({ company }: ExchangeState, device: DeviceId): boolean {
  return lookUp(company.telephones, device)?.mayRecord ?? false
}

/** People talk, one of ours among them. */
export function canBeRecorded(state: ExchangeState, call: Call): boolean {
  return isConversation(call) && hasOneOfOurs(state, call) && !leavesMessage(call) && !unliftedIn(call)
}

const hasOneOfOurs = (state: ExchangeState, { connections }: Call) => connections.some(({ device, along, state: its }) =>
  (state.devices.has(device) || along !== undefined) && (its === 'connected' || its === 'held'))

/** What recording a call begins or ends by itself: as its line says, and with whoever asked for it, or the last one of ours. */
export function recordingAfterwards(state: ExchangeState, call: Call): CallEvent[] {
  const rule = recordingRuleOf(state, call)
  const { recording } = call
  if (!recording) {
    const by = rule === 'always' && canBeRecorded(state, call) ? call.connections.find(({ device }) => state.devices.has(device)) : undefined
    return by ? [{ type: 'recordingStarted', call: call.id, device: by.device, byRule: true }] : []
  }
  const asked = recording.by === null ? rule === 'always' : rule !== 'never' && connectionOf(call, recording.by) !== undefined
  return asked && hasOneOfOurs(state, call) ? [] : [{ type: 'recordingStopped', call: call.id, device: recording.by ?? call.calling }]
}

/** The name under which what is said is kept, or null. */
export function recordingOf({ id, recording }: Pick<Call, 'id' | 'recording'>): string | null {
  return recording ? `${recordingPrefix}${id}:${recording.since}` : null
}

export const recordingPrefix = 'recording:'

/** The call of which a recording is. */
export function callOfRecording(recording: string): string {
  return recording.slice(recordingPrefix.length, recording.lastIndexOf(':'))
}
