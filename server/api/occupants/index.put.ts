import { occupancyList, occupancyTaken } from '~~/shared/whereabouts'
import { defineEndpoint } from '../../endpoints/define'
import { takeList } from '../../occupancy/occupancy'

export default defineEndpoint({
  summary: 'Take a list (CSV) of who is at which place for the whole truth; a row that can\'t be read is named, and nothing is changed then',
  mayAsk: { right: 'keepPlaces' },
  body: occupancyList,
  answer: occupancyTaken,
}, ({ body: { csv } }) => takeList(csv, 'csv'))
