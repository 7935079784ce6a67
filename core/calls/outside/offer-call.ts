import { phrase } from '../../../words/phrase'
import { object, string } from 'yup'
import type { Company } from '../../company/company'
import { lineWithNumber, lookUp, telephoneWithDirectNumber } from '../../company/lookups'
import { readCaller } from '../../numbers/dialled'
import { accept, refuse } from '../answers'
import { callIdOf } from '../beginning'
import { type FieldsOf, text } from '../fields'
import type { CallEvent, Party } from '../model'
import { toOperators } from '../passing/passing'
import { channelsFree, channelsUsed } from '../questions'
import type { Service } from '../service'
import { legOf, reach } from '../targets'
import { plainText } from '../text'

const longestNumber = 40
const longestName = 80
/** What the network says is cut, not refused: no caller stays outside for a long name. */
const asSaid = (label: string) => string().strict().max(10_000).nullable().defined().label(label)

const fields = () => object({
  trunk: text('trunk', 80),
  party: object({ number: asSaid('party.number'), name: asSaid('party.name') }).required(),
  number: text('number', 40),
})

declare module '../model' {
  interface Requests { offerCall: FieldsOf<typeof fields> }
}

/** The network brings a call in on a trunk. */
export const offerCall: Service<'offerCall'> = {
  fields,
  askedBy: ['handset'],
  decide({ state, request: { trunk, party: offered, number: dialled } }) {
    if (channelsFree(state, trunk) === 0) return refuse('trunksBusy', phrase('refusals.everyChannelOfThatTrunk'))
    const device = legOf(state, trunk)
    const call = callIdOf(state)
    const party = cleanParty(offered, state.company)
    const number = readCaller(dialled, state.company.settings)
    const line = lineWithNumber(state.company, number)
    const target = line ? undefined : telephoneWithDirectNumber(state.company, number)
    if (!line && !target) return refuse('unallocatedNumber', phrase('refusals.isNotANumberOf', { number }))
    const originated: CallEvent = { type: 'originated', call, device, direction: 'inbound', dialled: number, party, trunk, line: line?.id ?? null }
    if (party.number && state.blocked.has(party.number)) {
      return accept(
        originated,
        { type: 'callInformation', call, device: line?.target ?? target!.id, text: phrase('callers.weDoNotTakeCalls') },
        { type: 'callCleared', call, device: line?.target ?? target!.id, cause: 'blocked' },
      )
    }
    if (line) return accept(originated, { type: 'queued', call, device: line.target })
    // The leg of an outside party that it is sent on to is counted after the caller's own, and finds that one's channel taken.
    const channels = state.indexes.channels.set(trunk, channelsUsed(state, trunk) + 1)
    const counted = { ...state, serial: state.serial + 1, indexes: { ...state.indexes, channels } }
    const reached = reach(counted, { kind: 'device', id: target!.id, telephone: target! }, {
      call, number: party.number, except: [],
    })
    return 'events' in reached
      ? accept(originated, ...reached.events)
      : accept(originated, ...toOperators(state, call, target!.id, reached.cause ?? 'outOfService'))
  },
}

/** What the network says about a caller is kept as plain text, the number in E.164 however it is spelled; nothing left of it counts as withheld. */
function cleanParty(party: Party, { settings, shortNumbers }: Company): Party {
  const number = (party.number && readCaller(plainText(party.number, longestNumber), settings)) || null
  return {
    // A short number of the network calls nobody: whoever says that it is theirs hides their own.
    number: number !== null && lookUp(shortNumbers, number) ? null : number,
    name: (party.name && plainText(party.name, longestName)) || null,
  }
}
