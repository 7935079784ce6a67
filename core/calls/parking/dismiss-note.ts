import { phrase } from '../../../words/phrase'
import { object } from 'yup'
import { accept, refuse } from '../answers'
import type { EventKind } from '../event'
import { device, type FieldsOf, idOf } from '../fields'
import type { Service } from '../service'

const fields = () => object({ device: device(), note: idOf('note', 'note') })

declare module '../model' {
  interface Requests { dismissNote: FieldsOf<typeof fields> }
  interface Events {
    noteDismissed: AtPlace & { note: CallId }
  }
}

/** Takes the note of a caller who waited and has gone off one's telephone. */
export const dismissNote: Service<'dismissNote'> = {
  fields,
  askedBy: ['console', 'handset'],
  decide({ state, telephone, request: { note } }) {
    if (!state.outlived.some(known => known.call === note && known.for === telephone.id)) return refuse('notPossibleNow',
      phrase('refusals.thatNoteIsGoneAlready'))
    return accept({ type: 'noteDismissed', device: telephone.id, note })
  },
}

export const noteDismissed: EventKind<'noteDismissed'> = {
  evolve: (state, next, { note, device }) => ({ ...next, outlived: state.outlived.filter(known => known.call !== note || known.for !== device) }),
}
