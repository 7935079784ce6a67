import type { DeviceId, ExchangeState, Mailbox } from '~~/core/calls/model'
import type { Projection } from './projection'
import { insertRows } from '../../database/rows'

/** What mailboxes say in their owners' own words, and where keys lead: table `mailbox`. It outlives the exchange. */

export interface MailboxChange { kind: 'mailbox', device: DeviceId, mailbox: Mailbox }

export const mailboxes: Projection<MailboxChange> = {
  changes(event, before, after) {
    if (before.devices === after.devices) return []
    // Those that have been given to somebody else begin anew.
    const given = event.type === 'configured' ? event.changes.flatMap(change => change.part === 'telephones' ? [change.id] : []) : []
    const devices = 'device' in event ? [event.device] : given
    return devices.flatMap((device): MailboxChange[] => {
      const mailbox = after.devices.get(device)?.mailbox
      return mailbox && mailbox !== before.devices.get(device)?.mailbox ? [{ kind: 'mailbox', device, mailbox }] : []
    })
  },

  async write(em, changes) {
    const latest = new Map(changes.map(({ device, mailbox }) => [device, mailbox]))
    if (latest.size > 0) await em.execute(upsert, [JSON.stringify([...latest].map(([device, { greetings, keys }]) => ({ device, greetings, keys })))])
  },
}

/** Those of a state with which the journal begins, or begins again. */
export function keptMailboxes({ devices }: ExchangeState): MailboxChange[] {
  return [...devices].flatMap(([device, { mailbox }]) => mailbox ? [{ kind: 'mailbox' as const, device, mailbox }] : [])
}

const upsert = `${insertRows('mailbox', ['device', 'greetings', 'keys'])}
  on conflict ("device") do update set "greetings" = excluded."greetings", "keys" = excluded."keys"`
