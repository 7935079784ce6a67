import { type ISchema, mixed, object, string } from 'yup'
import { phrase } from '../../../words/phrase'
import { concealed } from '../../numbers/dialled'
import { accept, refuse } from '../answers'
import type { EventKind } from '../event'
import { device, type FieldsOf, idOf, idOrNull } from '../fields'
import { type Call, type DeviceId, type ExchangeState, type GreetingOccasion, greetingOccasions, longestGreeting, type Mailbox } from '../model'
import { ownerOfMailbox } from '../names'
import { withDevice } from '../places'
import { connectionOf, leavesMessage } from '../questions'
import type { Service } from '../service'
import { lastingTarget } from '../targets'
import { plainText } from '../text'

export const keysOfTelephone = [...'1234567890*#']

const greetingFields = () => object({
  device: device(),
  when: mixed<GreetingOccasion>().oneOf(greetingOccasions).required().label('when'),
  text: string().strict().max(longestGreeting).defined().label('text'),
})
const keyFields = () => object({
  device: device(),
  digit: string().strict().oneOf(keysOfTelephone).required().label('digit'),
  to: idOrNull('to', 'destination').max(60),
})

/** Texts by what they are for, and nothing for anything else. */
const textsFor = <Kept extends Partial<Record<string, string>>>(keys: readonly (keyof Kept & string)[], most: number) =>
  object(Object.fromEntries(keys.map(key => [key, string().strict().max(most).optional()])))
    .noUnknown().strict().required().default(undefined) as unknown as ISchema<Kept>

const restoreFields = () => object({
  of: idOf('of', 'device'),
  greetings: textsFor<Mailbox['greetings']>(greetingOccasions, longestGreeting),
  keys: textsFor<Mailbox['keys']>(keysOfTelephone, 60),
})

declare module '../model' {
  interface Requests {
    setGreeting: FieldsOf<typeof greetingFields>
    setMailboxKey: FieldsOf<typeof keyFields>
    restoreMailbox: FieldsOf<typeof restoreFields>
  }
  interface Events {
    /** What one's mailbox says at such a time; empty: what it says usually, or what mailboxes say. */
    greetingChanged: AtPlace & { when: GreetingOccasion, text: string }
    /** As an earlier run of the exchange knew it. */
    mailboxRestored: AtPlace & Mailbox
    /** Where a key leads during the greeting; null: nowhere. */
    mailboxKeyChanged: AtPlace & { digit: string, to: string | null }
  }
}

/** What one's own mailbox says, usually or while one is away for a reason: as it is written, spoken by the house's voice. */
export const setGreeting: Service<'setGreeting'> = {
  fields: greetingFields,
  askedBy: ['console', 'handset'],
  decide({ state, telephone, request: { when, text } }) {
    const said = plainText(text, longestGreeting)
    const before = mailboxAt(state, telephone.id)?.greetings[when] ?? ''
    return before === said ? accept() : accept({ type: 'greetingChanged', device: telephone.id, when, text: said })
  },
}

/** What a mailbox said in an earlier run of the exchange; what has been said meanwhile is newer. */
export const restoreMailbox: Service<'restoreMailbox'> = {
  fields: restoreFields,
  askedBy: [],
  decide: ({ state, request: { of, greetings, keys } }) => state.devices.has(of) && !mailboxAt(state, of)
    ? accept({ type: 'mailboxRestored', device: of, greetings, keys })
    : accept(),
}

/** Whoever reaches one's mailbox goes on to somebody else by pressing a key. */
export const setMailboxKey: Service<'setMailboxKey'> = {
  fields: keyFields,
  askedBy: ['console', 'handset'],
  decide({ state, telephone, request: { digit, to } }) {
    if (to !== null) {
      const target = lastingTarget(state, to)
      if ('refusal' in target) return target
      if (target.id === telephone.id) return refuse('toSelf', phrase('refusals.thatLeadsBackToYourself'))
    }
    return (mailboxAt(state, telephone.id)?.keys[digit] ?? null) === to ? accept() : accept({ type: 'mailboxKeyChanged', device: telephone.id, digit, to })
  },
}

function mailboxAt(state: ExchangeState, device: DeviceId): Mailbox | undefined {
  return state.devices.get(device)?.mailbox
}

/** Where a key leads whoever hears a mailbox; undefined: nowhere. */
export function ledOnBy(state: ExchangeState, call: Call, device: DeviceId, digit: string): { mailbox: DeviceId, to: string } | undefined {
  if (!leavesMessage(call) || connectionOf(call, device)?.state !== 'connected') return undefined
  for (const { device: mailbox } of call.connections) {
    const to = mailboxAt(state, ownerOfMailbox(mailbox) ?? '')?.keys[digit]
    if (to !== undefined) return { mailbox, to }
  }
  return undefined
}

const without = <T>(all: Record<string, T>, key: string) => Object.fromEntries(Object.entries(all).filter(([name]) => name !== key))

function changedMailbox(state: ExchangeState, next: ExchangeState, device: DeviceId, change: (mailbox: Mailbox) => Mailbox): ExchangeState {
  return withDevice(state, next, device, { mailbox: change(mailboxAt(state, device) ?? { greetings: {}, keys: {} }) })
}

export const greetingChanged: EventKind<'greetingChanged'> = {
  evolve: (state, next, { device, when, text }) => changedMailbox(state, next, device, ({ greetings, keys }) => ({
    keys, greetings: { ...without(greetings as Record<string, string>, when), ...text && { [when]: text } },
  })),
}

export const mailboxRestored: EventKind<'mailboxRestored'> = {
  evolve: (state, next, { device, greetings, keys }) => changedMailbox(state, next, device, () => ({ greetings, keys })),
  redact: event => ({ ...event, keys: redactedKeys(event.keys) }),
}

const redactedKeys = (keys: Mailbox['keys']) => Object.fromEntries(Object.entries(keys).map(([digit, to]) => [digit, concealed(to)]))

export const mailboxKeyChanged: EventKind<'mailboxKeyChanged'> = {
  evolve: (state, next, { device, digit, to }) => changedMailbox(state, next, device, ({ greetings, keys }) => ({
    greetings, keys: { ...without(keys, digit), ...to !== null && { [digit]: to } },
  })),
  redact: event => ({ ...event, to: event.to === null ? null : concealed(event.to) }),
  redactState: state => ({
    ...state,
    devices: state.devices.map(({ mailbox, ...device }) => mailbox ? { ...device, mailbox: { ...mailbox, keys: redactedKeys(mailbox.keys) } } : device),
  }),
}
