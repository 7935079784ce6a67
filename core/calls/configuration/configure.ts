import { phrase } from '../../../words/phrase'
import { Map as PersistentMap } from 'immutable'
import { number, object } from 'yup'
import { changedCompany, type CompanyChange } from '../../company/changes'
import { faultsOf } from '../../company/check'
import { lookUp } from '../../company/lookups'
import { accept, refuse } from '../answers'
import { quietDevice } from '../telephones/device'
import type { EventKind } from '../event'
import type { FieldsOf } from '../fields'
import { reindexAll } from '../indexes'
import { openingsAnew } from '../../queues/openings'
import type { Agent, Device, DeviceId } from '../model'
import type { Service } from '../service'

const version = () => number().strict().integer().min(0).required()
/** Beside them the changes themselves, whose schema (`company/schema.ts`) only the exchange link needs. */
export const fields = () => object({ from: version(), version: version() })

declare module '../model' {
  interface Requests { configure: FieldsOf<typeof fields> & { changes: CompanyChange[] } }
  interface Events {
    configured: { version: number, changes: CompanyChange[] }
  }
}

/**
 * The company's configuration changes from one version to a later one. The same version again changes nothing; one that does not follow on what is known
 * is refused.
 */
export const configure: Service<'configure'> = {
  fields,
  askedBy: [],
  decide({ state, request: { from, version, changes } }) {
    const known = state.company.version
    if (version <= known) return accept()
    if (from !== known) return refuse('notPossibleNow', phrase('refusals.theseChangesFollowOnVersion', { from, known }))
    const [fault] = faultsOf(changedCompany(state.company, version, changes))
    return fault ? refuse('notPossibleNow', phrase('refusals.theConfigurationWasNotTaken', { fault })) : accept({ type: 'configured', version, changes })
  },
}

/** Parts that say who and where somebody is, and what things are called: nothing that a call meets hangs on them. */
const ofNames = new Set<CompanyChange['part']>(['people', 'departments', 'sites', 'duties', 'accountCodes'])

/** What somebody has set at their telephone is theirs: whoever has it next begins anew, and no caller hears the one before, or is sent where they were. */
function givenOn(before: Device, at: number): Device {
  const { handset, freeSince, mailbox } = before
  return { ...quietDevice(at), handset, freeSince, ...mailbox && { mailbox: { greetings: {}, keys: {} } } }
}

/** A telephone that the company has no longer stays until its last call has ended. */
export const configured: EventKind<'configured'> = {
  evolve(state, next, { version, changes, at }) {
    const company = changedCompany(state.company, version, changes)
    if (changes.every(({ part }) => ofNames.has(part))) return { ...next, company }
    const added = Object.keys(company.telephones).filter(id => !state.devices.has(id))
    const removed = changes.flatMap(change => change.part === 'telephones' && !change.value && !state.indexes.callsAt.has(change.id) ? [change.id] : [])
    const given = Object.values(company.telephones).filter(({ id, person }) => {
      const before = lookUp(state.company.telephones, id)
      return before !== undefined && before.person !== person
    })
    const operators = company.groups[company.settings.operators]?.members ?? []
    return reindexAll({
      ...next, company, openings: openingsAnew({ ...next, company }, at),
      devices: state.devices.withMutations(devices => devices
        .merge(added.map((id): [DeviceId, Device] => [id, quietDevice(at)]))
        .merge(given.map(({ id }): [DeviceId, Device] => [id, givenOn(state.devices.get(id)!, at)]))
        .deleteAll(removed)),
      agents: PersistentMap(operators.map((id): [DeviceId, Agent] => [id, state.agents.get(id) ?? { attended: false, leavesAt: null, unserved: {} }])),
    })
  },
}
