import { phrase } from '../../../words/phrase'
import { accept, refuse } from '../answers'
import { type EventKind, told } from '../event'
import { type FieldsOf, ofCall } from '../fields'
import type { Service } from '../service'
import { canBeRecorded, mayRecord, recordingRuleOf } from './recordings'

declare module '../model' {
  interface Requests {
    startRecording: FieldsOf<typeof ofCall>
    stopRecording: FieldsOf<typeof ofCall>
  }
  interface Events {
    /** `byRule`: its line says so; `device` is then whoever of ours has it. */
    recordingStarted: OfCall & { byRule?: true }
    recordingStopped: OfCall
  }
}

/** Records what is said on one's own call from now on; everybody in it hears a tone, and sees it. Asked again, it goes on as it is. */
export const startRecording: Service<'startRecording'> = {
  fields: ofCall,
  askedBy: ['console'],
  decide({ state, call, own }) {
    if (!mayRecord(state, own.device)) return refuse('notAllowed', phrase('refusals.youHaveNoRightToRecord'))
    if (recordingRuleOf(state, call) === 'never') return refuse('notAllowed', phrase('refusals.callsOfThisLineAreNeverRecorded'))
    if (call.recording) return accept()
    if (own.state !== 'connected' || !canBeRecorded(state, call)) return refuse('notPossibleNow', phrase('refusals.recordedIsWhatPeopleSay'))
    return accept({ type: 'recordingStarted', call: call.id, device: own.device })
  },
}

export const stopRecording: Service<'stopRecording'> = {
  fields: ofCall,
  askedBy: ['console'],
  decide({ state, call, own }) {
    if (!mayRecord(state, own.device)) return refuse('notAllowed', phrase('refusals.youHaveNoRightToRecord'))
    if (call.recording && recordingRuleOf(state, call) === 'always')
      return refuse('notAllowed', phrase('refusals.callsOfThisLineAreAlwaysRecorded'))
    return call.recording ? accept({ type: 'recordingStopped', call: call.id, device: own.device }) : accept()
  },
}

export const recordingStarted: EventKind<'recordingStarted'> = {
  change: (call, { device, byRule, at }) => ({ ...call, recording: { by: byRule ? null : device, since: at } }),
  step: told,
}

export const recordingStopped: EventKind<'recordingStopped'> = {
  change: ({ recording: _over, ...call }) => call,
  step: told,
}
