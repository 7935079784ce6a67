import type { Spoken } from '~~/words/phrase'
import { defineEntity, type InferEntity, p } from '@mikro-orm/core'
import type { Direction, NumberedEvent, Step } from '~~/core/calls/model'
import type { Snapshot } from '~~/core/calls/snapshot'
import type { ParkingEnd } from '~~/core/calls/parking/parkings'
import type { Outcome } from '~~/core/calls/record'
import type { Distribution, Greeting, NumberClass, PageRank, PagingRight, RecordingRule, Ringing } from '~~/core/company/company'
import type { LevelRule } from '~~/core/figures/service-level'
import type { TonesAsWritten } from '~~/core/sound/country-tones'
import type { SpeedKey } from '~~/core/speed-keys/key'
import type { ContactKind } from '~~/shared/contacts'
import type { MessageKind } from '~~/shared/messages'
import type { Role } from '~~/shared/roles'
import type { PreferencesChange } from '~~/shared/preferences'

export const Account = defineEntity({
  name: 'Account',
  properties: {
    signIn: p.string().primary(),
    name: p.string(),
    role: p.string().$type<Role>(),
    passwordHash: p.string(),
    person: p.string().nullable(),
    disabled: p.boolean().default(false),
  },
})

/** A browser at which somebody is signed in. It ends when its row goes. */
export const SessionEntity = defineEntity({
  name: 'Session',
  properties: {
    id: p.string().primary(),
    signIn: p.string(),
    createdAt: p.datetime(),
    seenAt: p.datetime(),
    browser: p.string(),
    address: p.string(),
    /** Of a session that the house's identity provider began: who it is there, which session of theirs, and what proves it, sealed. */
    providerSubject: p.string().nullable(),
    providerSession: p.string().nullable(),
    idToken: p.text().nullable(),
  },
})

/** What somebody has set of their console; what is not there is as designed. */
export const PreferencesEntity = defineEntity({
  name: 'Preferences',
  properties: {
    signIn: p.string().primary(),
    kept: p.json<PreferencesChange>(),
  },
})

/** A page of speed keys. `owner`: whose it is alone; null: everybody's who answers for the company. */
export const KeyPageEntity = defineEntity({
  name: 'KeyPage',
  properties: {
    id: p.string().primary(),
    name: p.string(),
    owner: p.string().nullable(),
    position: p.integer(),
    version: p.integer(),
    keys: p.json<SpeedKey[]>(),
  },
})

/** Whom we know outside. One that was removed stays, without what was known, so that consoles hear of it. */
export const ContactEntity = defineEntity({
  name: 'Contact',
  properties: {
    id: p.string().primary(),
    kind: p.string().$type<ContactKind>(),
    name: p.string(),
    company: p.string().nullable(),
    language: p.string(),
    note: p.text(),
    readFirst: p.boolean(),
    mark: p.string(),
    version: p.integer().default(1),
    change: p.integer(),
    removed: p.boolean().default(false),
    changedBy: p.string(),
    changedAt: p.datetime().defaultRaw('now()'),
    owner: p.string().nullable(),
    category: p.string().default(''),
    addresses: p.json<string[]>().defaultRaw('\'[]\''),
    uid: p.string().nullable(),
    card: p.json<string[]>().defaultRaw('\'[]\''),
    book: p.string().nullable(),
  },
})

export const ContactNumberEntity = defineEntity({
  name: 'ContactNumber',
  properties: { contact: p.string().primary(), number: p.string().primary(), kind: p.string(), position: p.integer() },
})

/** A missed call that somebody has dealt with: by calling back, or by saying so. */
export const DealtWithEntity = defineEntity({
  name: 'DealtWith',
  properties: {
    call: p.string().primary(),
    by: p.string(),
    byName: p.string(),
    at: p.datetime(),
    calledBack: p.boolean(),
  },
})

/** Items of the journal that the database refused for what is in them: kept as text, so that nothing delays the others and nothing is lost. */
export const SetAside = defineEntity({
  name: 'SetAside',
  properties: {
    epoch: p.string().primary(),
    seq: p.integer().primary(),
    at: p.datetime(),
    reason: p.string(),
    item: p.text(),
  },
})

export const SiteEntity = defineEntity({
  name: 'Site',
  properties: {
    id: p.string().primary(),
    name: p.string(),
    position: p.integer(),
  },
})

export const DepartmentEntity = defineEntity({
  name: 'Department',
  properties: {
    id: p.string().primary(),
    name: p.string(),
    site: p.string(),
    handles: p.json<string[]>(),
    position: p.integer(),
  },
})

/** Somebody who works here. The key stays, whatever their name, department or number. */
export const PersonEntity = defineEntity({
  name: 'Person',
  properties: {
    id: p.string().primary(),
    first: p.string(),
    last: p.string(),
    nickname: p.string().nullable(),
    department: p.string(),
    role: p.string(),
    room: p.string(),
    mobile: p.string().nullable(),
    former: p.string().nullable(),
    languages: p.json().$type<string[]>(),
    said: p.string(),
    note: p.string(),
    deputies: p.json().$type<string[]>(),
  },
})

/** What somebody has noted about a colleague, for nobody but themselves. */
export const OwnNoteEntity = defineEntity({
  name: 'OwnNote',
  properties: {
    signIn: p.string().primary(),
    person: p.string().primary(),
    text: p.text(),
    remindOn: p.date().nullable(),
  },
})

/** `label` names one that belongs to a place and to nobody. Times of the company's tables are milliseconds. */
export const TelephoneEntity = defineEntity({
  name: 'Telephone',
  properties: {
    id: p.string().primary(),
    person: p.string().nullable(),
    rank: p.integer(),
    label: p.string().nullable(),
    number: p.string(),
    capacity: p.integer(),
    inService: p.boolean(),
    pickupGroup: p.string(),
    direct: p.string().nullable(),
    mayPage: p.string().$type<PagingRight>(),
    mayListen: p.boolean(),
    mayRecord: p.boolean(),
  },
})

export const GroupEntity = defineEntity({
  name: 'CallGroup',
  properties: {
    id: p.string().primary(),
    name: p.string(),
    number: p.string(),
    distribution: p.string().$type<Distribution>(),
    tries: p.integer(),
    department: p.string().nullable(),
    promise: p.integer(),
    wrapUp: p.integer(),
    ringing: p.string().$type<Ringing>(),
    ringTime: p.integer(),
    pauseAfter: p.integer(),
    tellEvery: p.integer(),
    closedText: p.string(),
    mostWaiting: p.integer(),
    callBackDigit: p.string(),
    overflowAfter: p.integer(),
    overflowTo: p.string(),
    hours: p.string().nullable(),
  },
})

export const GroupMember = defineEntity({
  name: 'CallGroupMember',
  properties: {
    group: p.string().primary(),
    telephone: p.string().primary(),
    position: p.integer(),
    voluntary: p.boolean(),
    skill: p.integer(),
  },
})

export const LineEntity = defineEntity({
  name: 'Line',
  properties: {
    id: p.string().primary(),
    name: p.string(),
    number: p.string(),
    promise: p.integer(),
    greeting: p.string(),
    greetings: p.json<Greeting[]>(),
    target: p.string(),
    night: p.string(),
    overflowAfter: p.integer(),
    overflowTo: p.string(),
    closedText: p.string(),
    recording: p.string().$type<RecordingRule>(),
    hours: p.string().nullable(),
  },
})

export const OpeningHoursEntity = defineEntity({
  name: 'OpeningHours',
  properties: {
    id: p.string().primary(),
    name: p.string(),
    zone: p.string(),
  },
})

export const OpeningSpanEntity = defineEntity({
  name: 'OpeningSpan',
  properties: {
    hours: p.string().primary(),
    day: p.integer().primary(),
    opens: p.integer().primary(),
    closes: p.integer(),
  },
})

export const HolidayEntity = defineEntity({
  name: 'Holiday',
  properties: {
    hours: p.string().primary(),
    date: p.date().primary(),
    name: p.string(),
  },
})

export const TrunkEntity = defineEntity({
  name: 'Trunk',
  properties: {
    id: p.string().primary(),
    name: p.string(),
    channels: p.integer(),
    kept: p.integer(),
  },
})

export const ZoneEntity = defineEntity({
  name: 'Zone',
  properties: {
    id: p.string().primary(),
    name: p.string(),
    number: p.string(),
    site: p.string(),
    speakers: p.json<string[]>(),
    position: p.integer(),
  },
})

export const AnnouncementEntity = defineEntity({
  name: 'Announcement',
  properties: {
    id: p.string().primary(),
    occasion: p.string(),
    text: p.text(),
    rank: p.string().$type<PageRank>(),
    twice: p.boolean(),
    position: p.integer(),
  },
})

export const SlotEntity = defineEntity({
  name: 'ParkSlot',
  properties: {
    id: p.string().primary(),
    name: p.string(),
    number: p.string(),
    position: p.integer(),
  },
})

export const DutyEntity = defineEntity({
  name: 'Duty',
  properties: {
    id: p.string().primary(),
    name: p.string(),
    handles: p.json<string[]>(),
    instead: p.string(),
    position: p.integer(),
  },
})

/** What calls outside are put down to. */
export const AccountCodeEntity = defineEntity({
  name: 'AccountCode',
  properties: { id: p.string().primary(), code: p.string(), name: p.string() },
})

/** When somebody's time is taken, or who is on duty: what is left of a calendar that was given to us, or is fetched again and again. */
export const CalendarEntity = defineEntity({
  name: 'Calendar',
  properties: {
    /** A person's id, or a duty's. */
    of: p.string().primary(),
    address: p.string().nullable(),
    /** iCalendar with times and places alone. */
    content: p.text(),
    problems: p.json<Spoken[]>(),
    /** What its server said of the state that we have. */
    etag: p.string().nullable(),
    modified: p.string().nullable(),
    /** Why it could not be fetched or read the last time. */
    failure: p.string().nullable(),
    readAt: p.datetime().nullable(),
    /** When it is to be looked at again. */
    nextAt: p.datetime(),
    changedBy: p.string(),
  },
})

/** What takes place in a calendar in the weeks around now. */
export const CalendarSpanEntity = defineEntity({
  name: 'CalendarSpan',
  properties: {
    id: p.uuid().primary(),
    of: p.string(),
    fromAt: p.datetime(),
    toAt: p.datetime(),
    allDay: p.boolean(),
    place: p.string(),
    /** Of a roster: who is on duty, as it says. */
    title: p.string(),
    priority: p.integer(),
  },
})

/** Who was at a place from when to when; kept for a day after they have gone. */
export const OccupancyEntity = defineEntity({
  name: 'Occupancy',
  properties: {
    id: p.uuid().primary(),
    telephone: p.string(),
    name: p.string(),
    fromAt: p.datetime(),
    /** null: until the feed says otherwise. */
    toAt: p.datetime().nullable(),
  },
})

export const ShortNumberEntity = defineEntity({
  name: 'ShortNumber',
  properties: {
    number: p.string().primary(),
    name: p.string(),
    emergency: p.boolean(),
  },
})

/** One row. */
export const SettingsEntity = defineEntity({
  name: 'Settings',
  properties: {
    id: p.integer().primary(),
    name: p.string(),
    country: p.string(),
    language: p.string(),
    firstExtension: p.string(),
    longestInside: p.integer(),
    zone: p.string(),
    ringCycle: p.integer(),
    transferRecall: p.integer(),
    noAnswer: p.integer(),
    queueRecall: p.integer(),
    parkRecall: p.integer(),
    failedTone: p.integer(),
    tones: p.json<TonesAsWritten>(),
    absence: p.integer(),
    holdRecall: p.integer(),
    holdLimit: p.integer(),
    overflow: p.integer(),
    outsideWatch: p.integer(),
    outsideLongest: p.integer(),
    longestMessage: p.integer(),
    conferenceSize: p.integer(),
    operators: p.string().nullable(),
    pageSilence: p.integer(),
    pauseReasons: p.json<string[]>(),
    pageWait: p.integer(),
    pageOverDoNotDisturb: p.string().$type<PageRank>(),
    listeningTone: p.boolean(),
    pageDefault: p.string().nullable(),
    listedCodesOnly: p.boolean(),
    serviceLevel: p.string().$type<LevelRule['kind']>(),
    shortAbandon: p.integer(),
    callBackTries: p.integer(),
    callBackAgain: p.integer(),
    callBackWithin: p.integer(),
    callsTo: p.json<NumberClass[]>(),
    callBacksTo: p.json<NumberClass[]>(),
  },
})

/** Every event of every epoch, once and for ever: the database itself refuses to change or delete one. */
export const JournalEntry = defineEntity({
  name: 'JournalEntry',
  tableName: 'journal',
  properties: {
    epoch: p.string().primary(),
    seq: p.integer().primary(),
    at: p.datetime(),
    type: p.string(),
    call: p.string().nullable(),
    event: p.json<NumberedEvent>(),
    /** The form of the event (`eventVersion`); 0 for those from before it was kept. */
    version: p.integer(),
  },
})

/** States from which the journal's events lead on: the first of each epoch, and one after each gap. They can only grow, too. */
export const JournalState = defineEntity({
  name: 'JournalState',
  properties: {
    epoch: p.string().primary(),
    seq: p.integer().primary(),
    at: p.datetime(),
    version: p.integer(),
    state: p.json<Snapshot>(),
  },
})

/** A read model of the journal. `seq` is the event it stands at: an older replica never replaces a newer one. */
export const CallRecordEntity = defineEntity({
  name: 'CallRecord',
  properties: {
    id: p.string().primary(),
    epoch: p.string(),
    seq: p.integer(),
    direction: p.string().$type<Direction>(),
    number: p.string().nullable(),
    name: p.string().nullable(),
    dialled: p.string(),
    line: p.string().nullable(),
    startedAt: p.datetime(),
    answeredAt: p.datetime().nullable(),
    endedAt: p.datetime().nullable(),
    outcome: p.string().$type<Outcome>(),
    answeredBy: p.string().nullable(),
    endedWith: p.string().nullable(),
    account: p.string().nullable(),
    devices: p.array(),
    names: p.json<Record<string, Spoken>>(),
    story: p.json<Step[]>(),
    /** Everything the log's filter looks at, folded. */
    searchable: p.text(),
  },
})

/** Every stay of a caller in a park slot: a read model of the journal. */
export const ParkingEntity = defineEntity({
  name: 'Parking',
  properties: {
    call: p.string().primary(),
    at: p.datetime().primary(),
    slot: p.string(),
    by: p.string(),
    for: p.string().nullable(),
    caller: p.string(),
    number: p.string().nullable(),
    name: p.string().nullable(),
    end: p.string().$type<ParkingEnd>(),
    endedAt: p.datetime().nullable(),
    takenBy: p.string().nullable(),
    names: p.json<Record<string, Spoken>>(),
  },
})

/** Whose calls we do not take; told to an exchange that has begun anew. */
/** A promise to call somebody back, as the event `seq` of the run `stands` left it. */
export const CallBackRow = defineEntity({
  name: 'CallBack',
  properties: {
    id: p.string().primary(),
    epoch: p.string(),
    stands: p.string(),
    seq: p.integer(),
    number: p.string().nullable(),
    name: p.string().nullable(),
    line: p.string().nullable(),
    queue: p.string(),
    since: p.datetime(),
    turn: p.integer().nullable(),
    promisedAt: p.datetime(),
    by: p.string().nullable(),
    assigned: p.string().nullable(),
    tries: p.integer(),
    notBefore: p.datetime().nullable(),
    end: p.string().nullable(),
    endedBy: p.string().nullable(),
    endedAt: p.datetime().nullable(),
    word: p.string().nullable(),
    names: p.json<Record<string, Spoken>>(),
  },
})

export const BlockedNumber = defineEntity({
  name: 'BlockedNumber',
  properties: {
    number: p.string().primary(),
    reason: p.string(),
    by: p.string(),
    at: p.datetime(),
  },
})

/** A sound in the place of what the house plays or says by itself. `version` is another one whenever it is another sound. */
export const OwnSoundEntity = defineEntity({
  name: 'OwnSound',
  properties: {
    place: p.string().primary(),
    version: p.string(),
    sound: p.blob().lazy(),
    name: p.string(),
    by: p.string(),
    at: p.datetime(),
  },
})

/** A telephone of the network, and its secret as digest needs it (RFC 8760). */
export const TelephoneAccountEntity = defineEntity({
  name: 'TelephoneAccount',
  properties: {
    telephone: p.string().primary(),
    name: p.string(),
    md5: p.string(),
    sha256: p.string(),
    by: p.string(),
    at: p.datetime(),
  },
})

/** What waits in somebody's mailbox: taken down by an operator, or left by a caller. `to` is a telephone or a line. */
export const MessageEntity = defineEntity({
  name: 'Message',
  properties: {
    id: p.string().primary(),
    kind: p.string().$type<MessageKind>(),
    to: p.string(),
    from: p.string(),
    fromName: p.string(),
    caller: p.string().nullable(),
    number: p.string().nullable(),
    text: p.text(),
    urgent: p.boolean(),
    callBack: p.boolean(),
    seconds: p.integer().nullable(),
    at: p.datetime(),
    readAt: p.datetime().nullable(),
    deletedAt: p.datetime().nullable(),
    passedOn: p.text().nullable(),
    passedOnBy: p.string().nullable(),
    dealtBy: p.string().nullable(),
    dealtAt: p.datetime().nullable(),
  },
})

export type MessageRow = InferEntity<typeof MessageEntity>
export type ParkingRow = InferEntity<typeof ParkingEntity>
export type AccountRow = InferEntity<typeof Account>
export type SessionRow = InferEntity<typeof SessionEntity>
export type CallRecordRow = InferEntity<typeof CallRecordEntity>
