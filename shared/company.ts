import { array, boolean, lazy, mixed, number, object, type ObjectSchema, string } from 'yup'
import type { CompanyChange, Part } from '../core/company/changes'
import { type Company, distributions, type Settings } from '../core/company/company'
import './requests'

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
    id, person: id.nullable().defined(), rank: whole, name: text(), number: text(20), capacity: whole, inService: boolean().strict().required(), pickupGroup: text(), direct: text(20).nullable(),
  }),
  groups: object({
    id, name: text(), number: text(20), members: array(id).required(), distribution: string().oneOf(distributions).required(), tries: whole, department: id.nullable().defined(), overflow,
  }),
  lines: object({ id, name: text(), number: text(20), promise: whole, greeting: text(), target: id, night: id, overflow }),
  trunks: object({ id, channels: whole, kept: whole }),
  slots: object({ id, number: text(20) }),
  shortNumbers: object({ number: text(20), name: text(), emergency: boolean().strict().required() }),
} satisfies { [P in Part]: ObjectSchema<Company[P][string] & object> }

const settings: ObjectSchema<Settings> = object({
  ringCycle: whole, transferRecall: whole, noAnswer: whole, queueRecall: whole, parkRecall: whole, failedTone: whole, absence: whole, holdRecall: whole, holdLimit: whole, overflow: whole,
  outsideWatch: whole, outsideLongest: whole, longestMessage: whole, conferenceSize: whole, operators: id,
})

const isPart = (value: unknown): value is Part => typeof value === 'string' && Object.hasOwn(things, value)

/** One change of the configuration. */
export const companyChange = lazy((change: { part?: unknown } | undefined) => {
  const part = change?.part
  if (part === 'settings') return object({ part: string().oneOf(['settings']).required(), value: settings.required() })
  if (isPart(part)) return object({ part: string().oneOf([part]).required(), id, value: things[part].nullable().defined().default(undefined) })
  return mixed<CompanyChange>().test('part', 'part must name a part of the configuration', () => false)
})
