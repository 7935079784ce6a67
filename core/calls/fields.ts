import { boolean, type InferType, number, object, type ObjectSchema, string } from 'yup'
import { distributions } from '../company/company'
import { latestTime } from './model'

/** What requests are made of. `meta.names` says what a text names, so that whoever makes requests at random can name something that is there. */

const longestId = 80
const longestNumber = 60

type Names = 'device' | 'call' | 'destination' | 'slot' | 'line' | 'group' | 'note' | 'page' | 'opening' | 'trunk' | 'callBack'
const named = (label: string, names: Names) => string().strict().max(names === 'destination' ? longestNumber : longestId).label(label).meta({ names })

export const idOf = (label: string, names: Names) => named(label, names).required()
export const idOrNull = (label: string, names: Names) => named(label, names).nullable().defined()
export const idIfAny = (label: string, names: Names) => named(label, names).optional()
/** An extension, a group, a slot, a mailbox or an outside number, as it was dialled or named. */
export const destination = (label: string) => idOf(label, 'destination')
export const text = (label: string, longest = 300) => string().strict().max(longest).required().label(label)
export const textIfAny = (label: string, longest = 300) => string().strict().max(longest).optional().label(label)
export const on = () => boolean().strict().required().label('on')
/** A time that people read; null: for good. */
export const until = () => number().strict().integer().min(0).max(latestTime).nullable().label('until')
export const distribution = () => string().oneOf(distributions).optional().label('distribution')

/** Who asks. */
export const device = () => idOf('device', 'device')
export const call = () => idOf('call', 'call')
export const ofCall = () => object({ device: device(), call: call() })

export type FieldsOf<F extends () => ObjectSchema<object>> = InferType<ReturnType<F>>
