import { calendarInfo, calendarOf } from '~~/shared/whereabouts'
import { mayKeepCalendar } from '../../../calendars/rights'
import { fromDatabase } from '../../../database/away'
import { defineEndpoint } from '../../../endpoints/define'
import { useRelay } from '../../../relay'

export default defineEndpoint({
  summary: 'Where the calendar of a person or the roster of a duty comes from, and how reading it went',
  mayAsk: 'signedIn',
  params: calendarOf,
  answer: calendarInfo,
  also: {
    403: 'Calendars of others and rosters are kept by supervisors and administrators.',
    404: 'There is nobody, and no duty, of that id, or no calendar is known there.',
  },
}, ({ person, params: { of } }) => {
  mayKeepCalendar(person, of)
  return fromDatabase(() => useRelay().calendars.info(of))
})
