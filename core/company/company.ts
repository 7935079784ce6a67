import type { Settings, Things } from './schema'

/** What the company is made of, as `schema.ts` describes it. */
export type Department = Things['departments']
export type Person = Things['people']
export type PersonId = Person['id']
export type Telephone = Things['telephones']
export type Group = Things['groups']
export type Overflow = Group['overflow']
export type Line = Things['lines']
export type Greeting = Line['greetings'][number]
export type OpeningHours = Things['hours']
export type ShortNumber = Things['shortNumbers']
export type Slot = Things['slots']
export type Zone = Things['zones']
export type StandingAnnouncement = Things['announcements']
export type Duty = Things['duties']
export type { Settings }

/** Things stand under their ids. */
export type Company = { [P in keyof Things]: Record<string, Things[P]> } & {
  /** Counts the changes: of two configurations the one with the higher number is newer. 0 is no company at all. */
  version: number
  settings: Settings
}

/** How a group gives a call to its members: all wait in one queue; rings the one who has been free longest; rings everybody free at once. */
export const distributions = ['queue', 'longestFree', 'all'] as const
export type Distribution = typeof distributions[number]

/**
 * How a queue rings its members for who waits in it. `none`: they take callers by themselves; `longestFree`; `all`: everybody free at once; `order`: the first
 * free one in the order of the members; `turn`: one after the other, so that all get as many; `skill`: the most skilled of the free ones.
 */
export const ringings = ['none', 'longestFree', 'all', 'order', 'turn', 'skill'] as const
export type Ringing = typeof ringings[number]

/** How much a page matters: the higher is heard over the lower. */
export const pageRanks = ['ordinary', 'urgent', 'safety'] as const
export type PageRank = typeof pageRanks[number]

/** What no id may be: it never looks like a number, and is no name that every object has by birth. */
export function isTakenForItself(text: string): boolean {
  return /^[a-z]/i.test(text) && !(text in {})
}

/** What a new id is. One of before may have had other signs in it, and stays. */
export function isNewId(text: string): boolean {
  return /^[\w:-]{1,61}$/.test(text) && isTakenForItself(text)
}

/** The kinds of numbers outside, by what calls to them cost. */
export const numberClasses = ['inland', 'abroad', 'premium', 'satellite'] as const
export type NumberClass = typeof numberClasses[number]

/** Up to which rank somebody may page, if at all. */
export const pagingRights = ['no', ...pageRanks] as const
export type PagingRight = typeof pagingRights[number]

/** Whether calls on a line are recorded. */
export const recordingRules = ['onRequest', 'always', 'never'] as const
export type RecordingRule = typeof recordingRules[number]

/** What a group is that rings nobody by itself and tells callers nothing. */
export const waitingOnly = {
  ringing: 'none', ringTime: 15_000, pauseAfter: 0, skills: {}, tellEvery: 0, closedText: '', mostWaiting: 0, callBackDigit: '',
} satisfies Partial<Group>

/** A company of which nothing is known yet. */
export const nobody: Company = {
  version: 0, sites: {}, departments: {}, people: {}, telephones: {}, groups: {}, lines: {}, trunks: {}, slots: {}, shortNumbers: {}, hours: {},
  zones: {}, announcements: {}, duties: {}, accountCodes: {},
  settings: {
    name: '', country: 'GB', language: 'English', firstExtension: '2000', longestInside: 5,
    zone: 'Europe/London',
    ringCycle: 5_000, transferRecall: 20_000, noAnswer: 30_000, queueRecall: 60_000, parkRecall: 90_000, failedTone: 5_000, absence: 30_000,
    tones: { ringing: '', busy: '', congestion: '', unobtainable: '' },
    holdRecall: 180_000, holdLimit: 900_000, overflow: 180_000, outsideWatch: 300_000, outsideLongest: 2 * 60 * 60_000, longestMessage: 120_000,
    conferenceSize: 8, operators: 'operators', pageSilence: 15_000,
    pauseReasons: ['Break', 'Paperwork', 'Training', 'Called away'], pageWait: 60_000, pageOverDoNotDisturb: 'urgent', listeningTone: true, pageDefault: null,
    listedCodesOnly: false, callBackTries: 3, callBackAgain: 15 * 60_000, callBackWithin: 2 * 60 * 60_000,
    callsTo: ['inland', 'abroad'], callBacksTo: ['inland'], serviceLevel: 'offered', shortAbandon: 5_000,
  },
}
