import { object } from 'yup'
import { beginCall } from '../beginning'
import { destination, device, type FieldsOf, textIfAny } from '../fields'
import type { Service } from '../service'
import { plainText } from '../text'

const longestAccount = 24
const fields = () => object({ device: device(), number: destination('number'), account: textIfAny('account', 60) })

declare module '../model' {
  interface Requests { makeCall: FieldsOf<typeof fields> }
}

export const makeCall: Service<'makeCall'> = {
  fields,
  askedBy: ['console', 'handset'],
  decide: ({ state, telephone, request: { number, account } }) =>
    beginCall(state, telephone, number, { except: [telephone.id], ...(account && { account: plainText(account, longestAccount) }) }),
}
