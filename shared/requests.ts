import { boolean, mixed, number as yupNumber, object, type ObjectSchema, setLocale, string } from 'yup'
import { type AwayReason, awayReasons, type Request } from '../core/calls/model'
import { distributions } from '../core/company/company'
import { wellFormed } from '../core/calls/text'

/** Messages that name the field and the remedy, and never repeat what was sent. */
setLocale({
  mixed: {
    required: '${label} is missing: please fill it in.',
    defined: '${label} is missing: please fill it in.',
    notNull: '${label} must not be null.',
    notType: ({ label, type }) => `${label} must be a ${type}.`,
    oneOf: '${label} must be one of: ${values}.',
  },
  string: { max: '${label} must be at most ${max} characters.', min: '${label} must be at least ${min} characters.' },
  number: { max: '${label} must be at most ${max}.', min: '${label} must be at least ${min}.', integer: '${label} must be a whole number.' },
  object: { noUnknown: '${label} holds fields that are not known: ${unknown}.' },
})

const id = (label: string) => string().strict().max(80).required().label(label)
const ofCall = { device: id('device'), call: id('call') }
/** The last millisecond of the year 9999: what every part of the house can write as a date. */
export const latestTime = 253_402_300_799_999

const number = (label: string) => string().strict().max(60).required().label(label)
const until = (label = 'until') => yupNumber().strict().integer().min(0).max(latestTime).nullable().label(label)
const note = string().strict().max(300).optional().label('note')
const distribution = string().oneOf(distributions).optional().label('distribution')
const on = boolean().strict().required().label('on')

/** The company's configuration is sent by its server, and by no request. */
export type AskedService = Exclude<Request['service'], 'configure'>

/** What each service of the call model takes. */
export const services = {
  makeCall: object({ device: id('device'), number: number('number'), account: string().strict().max(60).optional().label('account') }),
  consultationCall: object({ ...ofCall, number: number('number') }),
  answerCall: object(ofCall),
  clearConnection: object(ofCall),
  clearCall: object(ofCall),
  dropParty: object({ ...ofCall, party: id('party') }),
  holdCall: object(ofCall),
  retrieveCall: object(ofCall),
  reconnectCall: object(ofCall),
  transferCall: object({ ...ofCall, consultation: id('consultation') }),
  singleStepTransferCall: object({ ...ofCall, to: number('to'), note, distribution }),
  deflectCall: object({ ...ofCall, to: number('to'), from: string().strict().max(80).optional().label('from'), note, distribution }),
  conferenceCall: object({ ...ofCall, other: id('other') }),
  singleStepConferenceCall: object({ ...ofCall, to: number('to') }),
  parkCall: object({ ...ofCall, slot: string().strict().max(80).nullable().defined().label('slot'), for: string().strict().max(80).nullable().defined().label('for') }),
  directedPickupCall: object(ofCall),
  groupPickupCall: object({ device: id('device'), group: string().strict().max(80).nullable().defined().label('group') }),
  generateDigits: object({ ...ofCall, digits: string().strict().max(80).required().label('digits') }),
  setMicrophoneMute: object({ ...ofCall, party: id('party'), on }),
  sendUserInformation: object({ ...ofCall, text: string().strict().max(300).required().label('text') }),
  setDoNotDisturb: object({ device: id('device'), on, of: string().strict().max(80).optional().label('of'), until: until().optional() }),
  setStatus: object({
    device: id('device'),
    reason: mixed<AwayReason>().nullable().oneOf([...awayReasons, null]).defined().label('reason'),
    until: until().defined(),
  }),
  setAgentState: object({ device: id('device'), attended: boolean().strict().required().label('attended') }),
  setLineServed: object({ device: id('device'), line: id('line'), on, until: until().defined() }),
  setHandset: object({ device: id('device'), on }),
  blockNumber: object({ device: id('device'), number: number('number'), reason: string().strict().max(300).required().label('reason') }),
  unblockNumber: object({ device: id('device'), number: number('number') }),
  dismissNote: object({ device: id('device'), note: id('note') }),
  offerCall: object({
    trunk: id('trunk'),
    party: object({
      // What the network says is cut, not refused: no caller stays outside for a long name.
      number: string().strict().max(10_000).nullable().defined().label('party.number'),
      name: string().strict().max(10_000).nullable().defined().label('party.name'),
    }).required(),
    number: string().strict().max(40).required().label('number'),
  }),
  adjustClock: object({ offset: yupNumber().strict().integer().min(-latestTime).max(latestTime).required().label('offset') }),
  tick: object({}),
} satisfies Record<AskedService, ObjectSchema<object>>

/** What a person may ask for, with their own device. The rest belongs to the network, the clock and the server. */
export const personServices = [
  'makeCall', 'consultationCall', 'answerCall', 'clearConnection', 'clearCall', 'dropParty', 'holdCall', 'retrieveCall', 'reconnectCall', 'transferCall',
  'singleStepTransferCall', 'deflectCall', 'conferenceCall', 'singleStepConferenceCall', 'parkCall', 'directedPickupCall', 'groupPickupCall',
  'generateDigits', 'setMicrophoneMute', 'setDoNotDisturb', 'setStatus', 'setLineServed', 'blockNumber', 'unblockNumber', 'dismissNote',
] as const satisfies AskedService[]
/** What a stand-in handset may ask for: what a telephone or a caller does with hands and mouth. */
export const handsetServices = [
  'makeCall', 'answerCall', 'clearConnection', 'holdCall', 'retrieveCall', 'consultationCall', 'reconnectCall', 'transferCall', 'singleStepTransferCall',
  'conferenceCall', 'parkCall', 'directedPickupCall', 'groupPickupCall', 'generateDigits', 'setMicrophoneMute', 'setDoNotDisturb', 'setStatus', 'dismissNote',
  'sendUserInformation', 'offerCall', 'setHandset',
] as const satisfies AskedService[]
export type HandsetRequest = Extract<Request, { service: typeof handsetServices[number] }>

export type PersonRequest = Extract<Request, { service: typeof personServices[number] }>

/**
 * Reads a request of the call model from outside.
 * @param allowed the services to accept
 * @throws ValidationError or Error with a sentence naming the field
 */
export function readRequest<S extends AskedService>(value: unknown, allowed: readonly S[]): Extract<Request, { service: S }> {
  const fields = wellFormed(object().required().label('request').validateSync(value)) as Record<string, unknown>
  const service = fields.service as S
  if (!allowed.includes(service)) throw new Error(`service must be one of: ${allowed.join(', ')}.`)
  return { service, ...services[service].validateSync(fields, { stripUnknown: true }) } as Extract<Request, { service: S }>
}

/** Each request of a browser carries an id: asked twice, it is carried out once. */
export const requestId = string().strict().min(8).max(80).matches(/^[\w:.-]*$/, 'id may hold letters, digits and : . _ - only.').required().label('id')

/** Answer to POST /api/requests. */
export interface RequestDone {
  /** The last event number when it was carried out. */
  seq: number
  /** The call that was begun. */
  call?: string
}

/** Answer to GET /api/requests/:id. */
export interface RequestOutcome {
  /** False: it was not carried out, and will not be. */
  carriedOut: boolean
  /** Why it was refused, if it was. */
  sentence: string | null
}
