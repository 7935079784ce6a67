import { whereabouts } from '~~/shared/whereabouts'
import { seesCallers } from '~~/shared/roles'
import { fromDatabase } from '../database/away'
import { defineEndpoint } from '../endpoints/define'
import { occupants } from '../occupancy/occupancy'
import { useRelay } from '../relay'

export default defineEndpoint({
  summary: 'Who is where when: times that calendars take today and tomorrow, who is on duty this week, who is at which place',
  dear: true,
  mayAsk: 'signedIn',
  answer: whereabouts,
}, ({ person }) => fromDatabase(async () => {
  const { calendars, orm, wallNow } = useRelay()
  const [engagements, turns] = [await calendars.engagements(), await calendars.turns()]
  if (!seesCallers(person.role)) return { engagements: engagements.map(one => ({ ...one, place: '' })), turns, occupants: [] }
  return { engagements, turns, occupants: await occupants(orm.em.fork(), wallNow) }
}))
