import '../core/schema/wording'
import { array, type InferType, number, object, string } from 'yup'
import { rights, rightsAtFirst } from './rights'

const rightsOf = (role: string) => array(string().oneOf(rights).required()).required().label(role)
const whole = (least: number, most: number, label: string) => number().strict().integer().min(least).max(most).required().label(label)

const fields = {
  /** What each role may do; staff members have none of it. */
  may: object({ operator: rightsOf('operator'), supervisor: rightsOf('supervisor'), administrator: rightsOf('administrator') }).noUnknown().required(),
  /** Characters of a new password, at least. */
  passwordLength: whole(8, 64, 'passwordLength'),
  /** Wrong passwords under one name before each further one must wait. */
  guesses: whole(3, 20, 'guesses'),
  /** Minutes after which a session without an open console ends, and hours after which every session does. */
  idleMinutes: whole(5, 960, 'idleMinutes'),
  longestHours: whole(1, 16, 'longestHours'),
  /** Days after which a recorded call goes by itself. */
  recordingDays: whole(1, 3_650, 'recordingDays'),
}

/** How people sign in here, and what each role may do. */
export const houseRules = object({ ...fields, version: number().integer().required() })
export type HouseRules = InferType<typeof houseRules>

/** `version`: the one that was seen when it was changed. */
export const houseRulesChange = object({ ...fields, version: whole(0, 2_000_000_000, 'version') }).noUnknown().required()

export const rulesAtFirst: HouseRules = {
  may: rightsAtFirst, passwordLength: 12, guesses: 5, idleMinutes: 120, longestHours: 16, recordingDays: 90, version: 0,
}
