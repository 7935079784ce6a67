import { type Company, type Group, type Line, nobody, type Telephone, waitingOnly } from '../company/company'

/**
 * A house of twelve people that has one of everything that the call model knows, each where it is met soon: for tests. Two slots and few channels, so that
 * both run out; hours that open and close while people talk; a queue that nobody serves, groups that ring as the target of a line and of a rule, and rules
 * that lead outside.
 */
export function smallHouse(): Company {
  return {
    ...nobody,
    version: 1,
    sites: { quay: { id: 'quay', name: 'Quay', position: 0 } },
    departments: Object.fromEntries(teams.map((id, position) => [id, { id, name: id, site: 'quay', handles: [], position }])),
    people: Object.fromEntries(people.map(([first, last, team, mobile], index) => [`p${2_100 + index}`, {
      id: `p${2_100 + index}`, first, last, nickname: null, former: null, department: team, role: '', room: `Q${index}`, mobile, languages: [],
      said: '', note: '', deputies: [],
    }])),
    telephones: byId([
      ...people.map(([first, last, team], index): Telephone => ({
        id: `t${2_100 + index}`, person: `p${2_100 + index}`, rank: 0, name: `${first} ${last}`, number: String(2_100 + index), pickupGroup: team,
        capacity: index < 3 ? 12 : 1, inService: true, direct: `+4416329601${String(index).padStart(2, '0')}`, mayPage: index < 3 ? 'safety' : 'no',
        mayListen: index === 0, mayRecord: index < 3,
      })),
      { id: 't851', person: null, rank: 0, name: 'Berth', number: '851', pickupGroup: 'freight', capacity: 1, inService: true, direct: null, mayPage: 'no',
        mayListen: false, mayRecord: false },
    ]),
    groups: byId([
      queue('operators', '0', ['t2100', 't2101', 't2102'], { callBackDigit: '2', tries: 3 }),
      queue('queue:reservations', '601', ['t2102', 't2103'], { ringing: 'turn', pauseAfter: 2, tellEvery: 30_000, mostWaiting: 12, hours: 'market',
        overflow: { after: 120_000, to: 'group:directors' } }),
      queue('queue:freight', '602', ['t2104', 't2105'], { ringing: 'longestFree', mostWaiting: 2, wrapUp: 20_000, voluntary: ['t2104'],
        overflow: { after: 90_000, to: '+447700900321' } }),
      queue('queue:sailingNews', '603', ['t2106', 't2107'], { ringing: 'skill', skills: { t2106: 2 }, tries: 3, pauseAfter: 2,
        overflow: { after: 180_000, to: 'queue:freight' } }),
      queue('queue:parcels', '604', ['t2108', 't2109'], { ringing: 'all', overflow: { after: 120_000, to: 'group:reservations' } }),
      queue('queue:lostProperty', '605', [], { ringing: 'order', overflow: { after: 60_000, to: 'group:nobody' } }),
      { ...queue('group:directors', '501', ['t2101', 't2110'], {}), distribution: 'all', callBackDigit: '' },
      { ...queue('group:reservations', '502', ['t2102', 't2103', 't2111'], { tries: 2 }), distribution: 'longestFree', callBackDigit: '' },
      { ...queue('group:nobody', '503', [], {}), distribution: 'all', callBackDigit: '' },
    ]),
    lines: byId([
      line('general', 0, { target: 'operators' }),
      line('freight', 10, { target: 'queue:freight', hours: 'market', night: '+447700900321' }),
      line('directors', 30, { target: 'group:directors', recording: 'never', overflow: { after: 60_000, to: 'operators' } }),
      line('reservations', 40, { target: 'group:reservations', night: 'queue:sailingNews', overflow: { after: 90_000, to: '+442079460099' } }),
      line('bookings', 45, { target: 'queue:reservations', overflow: { after: 60_000, to: 'group:reservations' } }),
      line('news', 50, { target: 'queue:sailingNews' }),
      line('parcels', 60, { target: 'queue:parcels', hours: 'market', night: 't2108' }),
      line('lost', 70, { target: 'queue:lostProperty', recording: 'always', overflow: { after: 60_000, to: 'group:directors' } }),
    ]),
    trunks: { east: { id: 'east', name: 'east', channels: 6, kept: 1 }, west: { id: 'west', name: 'west', channels: 4, kept: 1 } },
    slots: { 'slot:1': { id: 'slot:1', name: '1', number: '701' }, 'slot:2': { id: 'slot:2', name: '2', number: '702' } },
    shortNumbers: {
      101: { number: '101', name: 'Police, not an emergency', emergency: false },
      112: { number: '112', name: 'Emergency', emergency: true },
      999: { number: '999', name: 'Emergency', emergency: true },
    },
    hours: { market: { id: 'market', name: 'Market hours', zone: 'Europe/London', holidays: [], week: market } },
    zones: byId([
      { id: 'zone:hall', name: 'Hall', number: '801', site: 'quay', speakers: ['Hall'], position: 0 },
      { id: 'zone:yard', name: 'Yard', number: '802', site: 'quay', speakers: ['Yard gate', 'Yard lanes'], position: 1 },
      { id: 'zone:stennick', name: 'All of it', number: '803', site: 'quay', speakers: ['Hall', 'Yard gate', 'Yard lanes'], position: 2 },
    ]),
    settings: { ...nobody.settings, name: 'A small house', pageDefault: 'zone:hall', callBacksTo: ['inland', 'abroad'] },
  }
}

const teams = ['front', 'directors', 'reservations', 'freight']
const people: readonly (readonly [first: string, last: string, team: string, mobile: string | null])[] = [
  ['Ines', 'Quillfeather', 'front', '+447700900000'], ['Tomas', 'Arkwell', 'directors', null], ['Bryony', 'Lusk', 'reservations', null],
  ['Fergal', 'Quarrendon', 'reservations', '+447700900001'], ['Keziah', 'Ravelstone', 'freight', null], ['Hester', 'Netherby', 'freight', null],
  ['Dagny', 'Netherby', 'front', '+447700900002'], ['Ingrid', 'Thistlewade', 'front', null], ['Jory', 'Hawkstone', 'freight', null],
  ['Harriet', 'Wrackline', 'freight', '+447700900003'], ['Nerys', 'Dunmallow', 'directors', null], ['Cyril', 'Vanewick', 'reservations', null],
]
/** Open for an hour and closed for half of one, every day. */
const market = Array.from({ length: 7 * 16 }, (_, index) => {
  const opens = Math.floor(index / 7) * 90
  return { day: index % 7 + 1, opens, closes: opens + 60 }
})

const byId = <T extends { id: string }>(all: T[]): Record<string, T> => Object.fromEntries(all.map(one => [one.id, one]))

function queue(id: string, number: string, members: string[], more: Partial<Group>): Group {
  return {
    id, name: id, number, members, distribution: 'queue', tries: 0, department: null, promise: 60_000, wrapUp: 0, voluntary: [], hours: null,
    ...waitingOnly, callBackDigit: '2', overflow: { after: 240_000, to: 'operators' }, ...more,
  }
}

function line(id: string, number: number, more: Partial<Line> & { target: string }): Line {
  return {
    id, name: id, number: `+4416329600${String(number).padStart(2, '0')}`, promise: 20_000, greeting: '', greetings: [], hours: null, closedText: '',
    recording: 'onRequest', night: `mailbox:${id}`, overflow: { after: 240_000, to: `mailbox:${id}` }, ...more,
  }
}
