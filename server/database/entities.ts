import { defineEntity, type InferEntity, p } from '@mikro-orm/core'
import type { NumberedEvent, Step } from '~~/core/calls/model'
import type { ParkingEnd } from '~~/core/calls/parkings'
import type { Outcome } from '~~/core/calls/record'
import type { MessageKind } from '~~/shared/messages'
import type { Role } from '~~/shared/people'

export const Account = defineEntity({
  name: 'Account',
  properties: {
    signIn: p.string().primary(),
    name: p.string(),
    role: p.string().$type<Role>(),
    passwordHash: p.string(),
    extension: p.string().nullable(),
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

export const PersonEntity = defineEntity({
  name: 'Person',
  properties: {
    extension: p.string().primary(),
    first: p.string(),
    last: p.string(),
    nickname: p.string().nullable(),
    department: p.string(),
    role: p.string(),
    room: p.string(),
    mobile: p.string().nullable(),
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
  },
})

/** A read model of the journal. `seq` is the event it stands at: an older picture never replaces a newer one. */
export const CallRecordEntity = defineEntity({
  name: 'CallRecord',
  properties: {
    id: p.string().primary(),
    epoch: p.string(),
    seq: p.integer(),
    direction: p.string().$type<'inbound' | 'outbound' | 'internal'>(),
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
    names: p.json<Record<string, string>>(),
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
    names: p.json<Record<string, string>>(),
  },
})

/** Whose calls we do not take; told to an exchange that has begun anew. */
export const BlockedNumber = defineEntity({
  name: 'BlockedNumber',
  properties: {
    number: p.string().primary(),
    reason: p.string(),
    by: p.string(),
    at: p.datetime(),
  },
})

/** What waits in somebody's mailbox: taken down by an operator, or left by a caller. `to` is an extension or a line. */
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
  },
})

export type MessageRow = InferEntity<typeof MessageEntity>
export type ParkingRow = InferEntity<typeof ParkingEntity>
export type AccountRow = InferEntity<typeof Account>
export type SessionRow = InferEntity<typeof SessionEntity>
export type CallRecordRow = InferEntity<typeof CallRecordEntity>
