import { calendarOf } from '~~/shared/whereabouts'
import { done } from '~~/shared/done'
import { mayKeepCalendar } from '../../../calendars/rights'
import { fromDatabase } from '../../../database/away'
import { defineEndpoint } from '../../../endpoints/define'
import { useRelay } from '../../../relay'

export default defineEndpoint({
  summary: 'Forget the calendar of a person or the roster of a duty',
  mayAsk: 'signedIn',
  params: calendarOf,
  answer: done('removed'),
  also: {
    403: 'Calendars of others and rosters are kept by supervisors and administrators.',
    404: 'There is nobody, and no duty, of that id.',
  },
}, ({ person, params: { of } }) => fromDatabase(async () => {
  mayKeepCalendar(person, of)
  await useRelay().calendars.remove(of)
  return { removed: true }
}))
