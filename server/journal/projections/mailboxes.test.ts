import { expect, it } from 'vitest'
import { decide } from '../../../core/calls/decide'
import { evolve, numbered } from '../../../core/calls/evolve'
import type { Request } from '../../../core/calls/model'
import { Tryout } from '../../../core/calls/tryout'
import { merrowby } from '../../../demo/company/merrowby'
import { mailboxes } from './mailboxes'

it('what a mailbox says is emptied with the telephone\'s owner, so that a new run of the exchange does not bring it back', () => {
  const { state, now } = new Tryout(merrowby(20))
  let after = state
  const changes = (request: Request) => {
    const decision = decide(after, request, now)
    if ('refusal' in decision) throw new Error(request.service)
    return numbered(after, decision.events, now).flatMap((event) => {
      const before = after
      after = evolve(after, event)
      return mailboxes.changes(event, before, after)
    })
  }
  expect(changes({ service: 'setGreeting', device: 't2105', when: 'usual', text: 'Gone fishing.' }))
    .toEqual([{ kind: 'mailbox', device: 't2105', mailbox: { greetings: { usual: 'Gone fishing.' }, keys: {} } }])
  const { telephones } = state.company
  const give = (id: string, person: string | null) => changes({
    service: 'configure', from: after.company.version, version: after.company.version + 1,
    changes: [{ part: 'telephones', id, value: { ...telephones[id]!, person } }],
  })
  expect(give('t2106', null)).toEqual([])
  expect(give('t2105', telephones.t2107!.person)).toEqual([{ kind: 'mailbox', device: 't2105', mailbox: { greetings: {}, keys: {} } }])
})
