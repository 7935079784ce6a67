import { calendarInfo, calendarOf, calendarSource } from '~~/shared/whereabouts'
import { mayKeepCalendar } from '../../../calendars/rights'
import { defineEndpoint } from '../../../endpoints/define'
import { useRelay } from '../../../relay'

export default defineEndpoint({
  summary: 'Take a calendar (iCalendar) from an address, which is asked again and again, or from a file; only times and places are kept',
  mayAsk: 'signedIn',
  params: calendarOf,
  body: calendarSource,
  answer: calendarInfo,
  also: {
    403: 'Calendars of others and rosters are kept by supervisors and administrators.',
    404: 'There is nobody, and no duty, of that id.',
  },
}, ({ person, params: { of }, body }) => {
  mayKeepCalendar(person, of)
  return useRelay().calendars.put(of, person.signIn, body)
})
