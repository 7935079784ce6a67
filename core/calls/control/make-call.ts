import { phrase } from '../../../words/phrase'
import { object } from 'yup'
import { accountCodeOf } from '../../company/lookups'
import { refuse } from '../answers'
import { beginCall } from '../beginning'
import { destination, device, type FieldsOf, textIfAny } from '../fields'
import type { Service } from '../service'
import { plainText } from '../text'

const longestAccount = 24
const fields = () => object({ device: device(), number: destination('number'), account: textIfAny('account', 60) })

declare module '../model' {
  interface Requests { makeCall: FieldsOf<typeof fields> }
}

/** Before a number: it is called without showing one's own (3GPP TS 22.030, annex B). */
const withholds = /^\s*#31#/

export const makeCall: Service<'makeCall'> = {
  fields,
  askedBy: ['console', 'handset'],
  decide({ state, telephone, request: { number, account } }) {
    const typed = account && plainText(account, longestAccount)
    const listed = typed && accountCodeOf(state.company, typed)?.code
    const code = listed ?? (state.company.settings.listedCodesOnly ? null : typed)
    if (code === null && typed) return refuse('unknownAccount', phrase('refusals.thereIsNoAccountCode', { typed }))
    const withheld = withholds.test(number) && { withheld: true as const }
    return beginCall(state, telephone, number.replace(withholds, ''), { except: [telephone.id], ...(code && { account: code }), ...withheld })
  },
}
