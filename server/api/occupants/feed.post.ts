import { occupancyTaken, occupancyText } from '~~/shared/whereabouts'
import { defineEndpoint } from '../../endpoints/define'
import { takeList } from '../../occupancy/occupancy'

export default defineEndpoint({
  summary: 'Take a list of who is at which place from another program: CSV as the body',
  mayAsk: 'program',
  body: occupancyText,
  bodyType: 'text/csv',
  answer: occupancyTaken,
}, ({ body }) => takeList(body, 'list'))
