import { slotId } from '../../core/calls/names'
import type { Company } from '../../core/company/company'
import { mostKeys, type SpeedKey } from '../../core/speed-keys/key'

/** Six pages of speed keys as the operators of Merrowby Ferries would have made them. */

interface Page { name: string, keys: SpeedKey[] }

const key = (kind: SpeedKey['kind'], of: string, label: string | null = null): SpeedKey => ({ kind, of, label })

export function speedKeyPages(company: Company): Page[] {
  const people = Object.values(company.people)
  const from = (department: string) => people.filter(person => person.department === department)
  const of = (department: string, most = mostKeys) => from(department).slice(0, most).map(({ id }) => key('person', id))
  const head = (department: string, label: string) => of(department, 1).map(one => ({ ...one, label }))
  const pages: Page[] = [
    {
      name: 'Every day',
      keys: [
        ...['reservations', 'freight', 'lostProperty', 'sailingNews'].map(queue => key('group', `queue:${queue}`)),
        ...head('harbour', 'Harbour master'), ...head('control', 'Duty controller'), ...head('directors', 'Managing director'),
        key('group', 'group:accounts'), key('group', 'group:it'), key('group', 'group:people'),
        key('number', '+441632960711', 'Quay taxis'), key('number', '+441632960745', 'Hallow doctor'),
      ],
    },
    {
      name: 'Weather and delays',
      keys: [
        ...of('control'), key('group', 'queue:sailingNews'), key('opening', 'queue:sailingNews', 'Sailing news open'),
        key('zone', 'zone:hall'), key('zone', 'zone:stennick'), key('zone', 'zone:pier'),
        key('group', 'group:stennickTerminal'), key('group', 'group:hallowPier'),
        ...head('curlew', 'Curlew, bridge'), ...head('sandpiper', 'Sandpiper, bridge'), ...head('dunlin', 'Dunlin, bridge'),
        key('number', '+442079460733', 'Weather service'), key('number', '+441632960788', 'Local radio'),
      ],
    },
    {
      name: 'Freight yard',
      keys: [...of('freight', 12), key('group', 'queue:freight'), key('zone', 'zone:yard'), key('group', 'group:workshop'), key('line', 'freight')],
    },
    { name: 'Vessels', keys: [...of('curlew'), ...of('sandpiper'), ...of('dunlin'), key('group', 'group:crewing'), ...head('workshop', 'Workshop foreman')] },
    {
      name: 'Trouble',
      keys: [
        ...of('safety'), ...of('electrical', 3), ...head('workshop', 'Workshop foreman'), key('group', 'group:safety'),
        key('number', '+441632960799', 'Coastal rescue'), key('number', '+441632960755', 'Pump hire'),
      ],
    },
    {
      name: 'My desk',
      keys: [
        key('status', 'available'), key('status', 'break'), key('status', 'lunch'),
        ...Object.values(company.lines).filter(({ target }) => target === company.settings.operators).map(({ id }) => key('line', id)),
        key('night', 'lines'),
        ...[1, 2, 3, 4].map(slot => key('slot', slotId(slot))),
      ],
    },
  ]
  return pages.map(({ name, keys }) => ({ name, keys: keys.filter(({ kind, of: whose }) => kind !== 'group' || company.groups[whose]) }))
}
