import { boolean, mixed, number, object, type ObjectSchema, setLocale, string } from 'yup'
import { type AwayReason, awayReasons, type Request } from '../core/calls/model'

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
const latestTime = 8.64e15

/** What each service of the call model takes. */
export const services = {
  makeCall: object({ device: id('device'), number: string().strict().max(60).required().label('number') }),
  answerCall: object(ofCall),
  clearConnection: object(ofCall),
  holdCall: object(ofCall),
  retrieveCall: object(ofCall),
  singleStepTransferCall: object({ ...ofCall, to: id('to') }),
  sendUserInformation: object({ ...ofCall, text: string().strict().max(300).required().label('text') }),
  setDoNotDisturb: object({ device: id('device'), on: boolean().strict().required().label('on') }),
  setStatus: object({
    device: id('device'),
    reason: mixed<AwayReason>().nullable().oneOf([...awayReasons, null]).defined().label('reason'),
    until: number().strict().integer().min(0).max(latestTime).nullable().defined().label('until'),
  }),
  offerCall: object({
    trunk: id('trunk'),
    party: object({
      number: string().strict().max(300).nullable().defined().label('party.number'),
      name: string().strict().max(300).nullable().defined().label('party.name'),
    }).required(),
    number: string().strict().max(40).required().label('number'),
  }),
  tick: object({}),
} satisfies Record<Request['service'], ObjectSchema<object>>

/** What a person may ask for, with their own device. The rest belongs to the network and the clock. */
export const personServices = [
  'makeCall', 'answerCall', 'clearConnection', 'holdCall', 'retrieveCall', 'singleStepTransferCall', 'setDoNotDisturb', 'setStatus',
] as const satisfies Request['service'][]
export type PersonRequest = Extract<Request, { service: typeof personServices[number] }>

/**
 * Reads a request of the call model from outside.
 * @param allowed the services to accept
 * @throws ValidationError or Error with a sentence naming the field
 */
export function readRequest<S extends Request['service']>(value: unknown, allowed: readonly S[]): Extract<Request, { service: S }> {
  const fields = object().required().label('request').validateSync(value) as Record<string, unknown>
  const service = fields.service as S
  if (!allowed.includes(service)) throw new Error(`service must be one of: ${allowed.join(', ')}.`)
  return { service, ...services[service].validateSync(fields, { stripUnknown: true }) } as Extract<Request, { service: S }>
}

/** Each request of a browser carries an id: asked twice, it is carried out once. */
export const requestId = string().strict().min(8).max(80).required().label('id')

/** Answer to POST /api/requests. */
export interface RequestDone {
  /** The last event number when it was carried out. */
  seq: number
  /** The call that was begun. */
  call?: string
}
