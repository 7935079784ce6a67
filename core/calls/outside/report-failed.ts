import { object, string } from 'yup'
import { accept, ownerSentence, refuse } from '../answers'
import { call, device, type FieldsOf } from '../fields'
import { unanswered } from '../passing/passing'
import type { Service } from '../service'

/** Engaged; rang in vain; not to be reached; no way there. */
const causes = ['busy', 'noAnswer', 'outOfService', 'trunksBusy'] as const
const fields = () => object({ device: device(), call: call(), cause: string().oneOf(causes).required().label('cause') })

declare module '../model' {
  interface Requests { reportFailed: FieldsOf<typeof fields> }
}

/** The network says why a number outside that was called is not reached. */
export const reportFailed: Service<'reportFailed'> = {
  fields,
  askedBy: [],
  outside: true,
  may: ({ state, call, part, own }) => (part === 'rung' || part === 'invited') && own.party ? null : refuse('notPossibleNow', ownerSentence(state, call)),
  decide: ({ state, call, own, request: { cause } }) => accept(...unanswered(state, call, own, cause)),
}
