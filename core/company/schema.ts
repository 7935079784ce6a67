import '../schema/wording'
import { array, boolean, type ISchema, number, object, type ObjectSchema, type Schema, string } from 'yup'
import { type CompanyChange, type Part, parts } from './changes'
import { type Company, distributions, type Settings } from './company'
import { oneOfBy, recordOf } from '../schema/shapes'

/** The company's configuration as it is sent: one schema for each thing that it is made of. */

const text = (longest = 200) => string().strict().max(longest).defined()
const id = string().strict().min(1).max(80).required()
const whole = number().strict().integer().min(0).required()
const overflow = object({ after: whole, to: id }).required()

const things = {
  sites: object({ id, name: text(), position: whole }),
  departments: object({ id, name: text(), site: id, handles: array(text().required()).required(), position: whole }),
  people: object({ id, first: text(), last: text(), nickname: text().nullable(), department: id, role: text(), room: text(), mobile: text(20).nullable() }),
  telephones: object({
    id,
    person: id.nullable().defined(),
    rank: whole,
    name: text(),
    number: text(20),
    capacity: whole,
    inService: boolean().strict().required(),
    pickupGroup: text(),
    direct: text(20).nullable(),
  }),
  groups: object({
    id,
    name: text(),
    number: text(20),
    members: array(id).required(),
    distribution: string().oneOf(distributions).required(),
    tries: whole,
    department: id.nullable().defined(),
    overflow,
    hours: id.nullable().defined(),
  }),
  lines: object({ id, name: text(), number: text(20), promise: whole, greeting: text(), target: id, night: id, overflow, hours: id.nullable().defined() }),
  trunks: object({ id, channels: whole, kept: whole }),
  slots: object({ id, number: text(20) }),
  shortNumbers: object({ number: text(20), name: text(), emergency: boolean().strict().required() }),
  hours: object({
    id,
    name: text(),
    zone: text(),
    week: array(object({ day: whole.min(1).max(7), opens: whole.max(1440), closes: whole.max(1440) })).required(),
    holidays: array(object({ date: text(10), name: text() })).required(),
  }),
} satisfies { [P in Part]: ObjectSchema<Company[P][string] & object> }

const settings: ObjectSchema<Settings> = object({
  ringCycle: whole,
  transferRecall: whole,
  noAnswer: whole,
  queueRecall: whole,
  parkRecall: whole,
  failedTone: whole,
  absence: whole,
  holdRecall: whole,
  holdLimit: whole,
  overflow: whole,
  outsideWatch: whole,
  outsideLongest: whole,
  longestMessage: whole,
  conferenceSize: whole,
  operators: id,
})

/** Made once: a large company is told in tens of thousands of changes. */
const changeOf: Record<string, Schema> = {
  ...Object.fromEntries(
    parts.map(part => [part, object({ part: string().oneOf([part]).required(), id, value: things[part].nullable().defined().default(undefined) })]),
  ),
  settings: object({ part: string().oneOf(['settings']).required(), value: settings.required() }),
}

/** One change of the configuration. */
export const companyChange = oneOfBy('part', changeOf) as unknown as ISchema<CompanyChange>

/** The whole configuration, as whoever is signed in may read it. */
export const company = object({
  version: whole,
  ...Object.fromEntries(parts.map(part => [part, recordOf(things[part] as Schema<object>)])),
  settings: settings.required(),
}) as unknown as ObjectSchema<Company>
