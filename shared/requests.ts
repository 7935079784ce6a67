import { saying } from '../core/schema/wording'
import { boolean, type InferType, type ISchema, number, object, type ObjectSchema, type Schema, string } from 'yup'
import type { DeviceId, Request, ServiceName } from '../core/calls/model'
import { services } from '../core/calls/services'
import { wellFormed } from '../core/calls/text'
import { oneOfBy } from '../core/schema/shapes'

/** The company's configuration is sent by its server, and by no request. */
type AskedService = Exclude<ServiceName, 'configure'>

const asked = (Object.keys(services) as (keyof typeof services)[]).filter(name => name !== 'configure')
export type PersonRequest = Extract<Request, { device: DeviceId }>
export type HandsetRequest = PersonRequest | Extract<Request, { service: 'offerCall' }>
/** What a person may ask for, with their own telephone. The rest belongs to the network, the clock and the server. */
export const personServices = asked.filter(name => services[name].askedBy.includes('console')) as PersonRequest['service'][]
/** What a stand-in handset may ask for. */
export const handsetServices = asked.filter(name => services[name].askedBy.includes('handset')) as HandsetRequest['service'][]

/** Each request of a browser carries an id: asked twice, it is carried out once. */
export const requestId = string().strict().min(8).max(80).matches(/^[\w:.-]*$/, saying('input.requestId')).required().label('id')

/**
 * Requests for some of the services; nothing else that is sent is kept.
 * @param more fields that stand beside those of the service
 */
export function requestFor<S extends AskedService, M extends Record<string, Schema> = Record<never, never>>(names: readonly S[], more?: M) {
  const schemas = names.map(name => [name, onlyKnown(fieldsOf(name).shape({ service: string().oneOf([name]).required(), ...more })).required()])
  return oneOfBy('service', Object.fromEntries(schemas)) as unknown as ISchema<Extract<Request, { service: S }> & { [K in keyof M]: InferType<M[K]> }>
}

function fieldsOf(name: AskedService): ObjectSchema<object> {
  return name === 'tick' ? object() : services[name].fields()
}

/** Leaves out what the schema does not know, also where an endpoint refuses that. */
function onlyKnown(schema: ObjectSchema<object>): ObjectSchema<object> {
  const known = Object.keys(schema.fields)
  return schema.transform((value: unknown) =>
    typeof value === 'object' && value !== null ? Object.fromEntries(Object.entries(value).filter(([name]) => known.includes(name))) : value,
  )
}

const anyRequest = requestFor<AskedService>(['tick', ...asked])

/**
 * Reads a request of the call model from outside.
 * @throws ValidationError with a sentence naming the field
 */
export function readRequest(value: unknown): Exclude<Request, { service: 'configure' }> {
  return (anyRequest as Schema).validateSync(wellFormed(value)) as Exclude<Request, { service: 'configure' }>
}

/** A request was carried out: `seq` is the last event number then, `call` the call that was begun. */
export const requestDone = object({ seq: number().integer().required(), call: string().optional() })
export type RequestDone = InferType<typeof requestDone>

/** What became of a request. `carriedOut` false: it was not, and will not be; `sentence`: why it was refused, if it was. */
export const requestOutcome = object({ carriedOut: boolean().required(), sentence: string().nullable().defined() })
export type RequestOutcome = InferType<typeof requestOutcome>
