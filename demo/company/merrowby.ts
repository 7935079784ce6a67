import { mailboxOf, slotId } from '../../core/calls/names'
import { nobody, waitingOnly } from '../../core/company/company'
import type { Company, Group, Line, OpeningHours, Person, Ringing, Settings, ShortNumber, Telephone } from '../../core/company/company'
import { byId } from '../../core/company/lookups'
import { type Chance, chanceFrom } from './chance'
import { announcements, pageDefault, zones } from './paging'
import { firstNames, lastNames, otherFirstNames, otherLastNames, siteId } from './names'
import { duties, places } from './whereabouts'

/** Merrowby Ferries, the invented company of the demo: who works there, and which numbers reach it. */

/** What a department of the demo is made of. */
interface Plan { id: string, name: string, site: string, people: number, handles: string[], roles: string[] }

const second = 1_000
const operators = 'operators'
/** The first of everybody are the operators. */
const operatorSeats = 3
/** Whose right it is to listen to calls. */
const supervisorSeat = 2
/** Larger companies have people from farther away. */
const ordinarySize = 182
const quay = 'Merrowby Quay'
const stennick = 'Stennick Harbour'
const hallow = 'Isle of Hallow'
const sea = 'At sea'
const sites = [quay, stennick, hallow, sea]

const departments: Plan[] = [
  { id: 'relay', name: 'Front desk', site: quay, people: 3, handles: ['switchboard', 'reception', 'visitors'], roles: ['Operator', 'Operator', 'Supervisor'] },
  {
    id: 'directors',
    name: 'Directors\' office',
    site: quay,
    people: 6,
    handles: ['complaints to the directors', 'press questions'],
    roles: ['Managing director', 'Finance director', 'Fleet director', 'Assistant to the directors'],
  },
  {
    id: 'reservations',
    name: 'Reservations',
    site: quay,
    people: 22,
    handles: ['bookings', 'tickets', 'changing a booking', 'a car on the ferry', 'refunds'],
    roles: ['Team leader', 'Reservations agent', 'Web bookings'],
  },
  {
    id: 'groups',
    name: 'Group travel',
    site: quay,
    people: 8,
    handles: ['school trips', 'coach parties', 'weddings on board'],
    roles: ['Group planner', 'Coach bookings'],
  },
  {
    id: 'freight',
    name: 'Freight',
    site: stennick,
    people: 14,
    handles: ['lorries', 'trailers', 'customs papers', 'dangerous goods', 'parcels'],
    roles: ['Freight desk', 'Customs clerk', 'Yard planner', 'Team leader'],
  },
  {
    id: 'harbour',
    name: 'Harbour office',
    site: stennick,
    people: 9,
    handles: ['berths', 'moorings', 'harbour dues', 'pilotage'],
    roles: ['Harbour master', 'Deputy harbour master', 'Berthing', 'Harbour clerk'],
  },
  {
    id: 'control',
    name: 'Sailing control',
    site: stennick,
    people: 8,
    handles: ['sailing times', 'delays', 'cancelled sailings', 'weather'],
    roles: ['Duty controller', 'Timetable planner'],
  },
  {
    id: 'crewing',
    name: 'Crewing',
    site: quay,
    people: 10,
    handles: ['crew rosters', 'seafarers\' papers', 'jobs on board'],
    roles: ['Crewing officer', 'Roster planner', 'Training'],
  },
  {
    id: 'workshop',
    name: 'Workshop',
    site: stennick,
    people: 14,
    handles: ['engines', 'repairs', 'spare parts', 'dry dock'],
    roles: ['Foreman', 'Fitter', 'Welder', 'Parts store'],
  },
  {
    id: 'electrical',
    name: 'Electrical',
    site: stennick,
    people: 7,
    handles: ['lighting', 'radio and radar', 'ramp power'],
    roles: ['Electrician', 'Radio technician'],
  },
  {
    id: 'catering',
    name: 'Catering stores',
    site: stennick,
    people: 9,
    handles: ['deliveries of food', 'the ship\'s kitchen', 'suppliers'],
    roles: ['Stores', 'Catering planner', 'Purchasing'],
  },
  {
    id: 'stennickTerminal',
    name: 'Stennick terminal',
    site: stennick,
    people: 10,
    handles: ['check-in at Stennick', 'wheelchair help', 'parking at Stennick'],
    roles: ['Terminal supervisor', 'Check-in', 'Passenger help'],
  },
  {
    id: 'hallowPier',
    name: 'Hallow pier',
    site: hallow,
    people: 6,
    handles: ['check-in at Hallow', 'island buses', 'the pier gate'],
    roles: ['Pier supervisor', 'Check-in'],
  },
  {
    id: 'lostProperty',
    name: 'Lost property',
    site: stennick,
    people: 3,
    handles: ['lost luggage', 'a lost umbrella', 'a lost telephone', 'something left on board'],
    roles: ['Lost property clerk'],
  },
  {
    id: 'accounts',
    name: 'Accounts',
    site: quay,
    people: 12,
    handles: ['invoices', 'payments', 'reminders', 'VAT'],
    roles: ['Bookkeeper', 'Payables', 'Receivables', 'Payroll'],
  },
  {
    id: 'people',
    name: 'People team',
    site: quay,
    people: 7,
    handles: ['applications', 'apprenticeships', 'references'],
    roles: ['People partner', 'Recruiting'],
  },
  { id: 'it', name: 'IT', site: quay, people: 9, handles: ['the website', 'ticket machines', 'computers'], roles: ['Help desk', 'Networks', 'Systems'] },
  {
    id: 'marketing',
    name: 'Marketing',
    site: quay,
    people: 8,
    handles: ['brochures', 'sponsorship', 'advertising', 'photographs'],
    roles: ['Campaigns', 'Press officer', 'Design'],
  },
  { id: 'safety', name: 'Safety', site: quay, people: 6, handles: ['accidents', 'drills', 'inspections'], roles: ['Safety officer', 'Inspector'] },
  { id: 'curlew', name: 'MV Curlew', site: sea, people: 4, handles: ['the Curlew'], roles: ['Master', 'Chief engineer', 'Purser', 'Galley'] },
  { id: 'sandpiper', name: 'MV Sandpiper', site: sea, people: 4, handles: ['the Sandpiper'], roles: ['Master', 'Chief engineer', 'Purser', 'Galley'] },
  { id: 'dunlin', name: 'MV Dunlin', site: sea, people: 3, handles: ['the Dunlin'], roles: ['Master', 'Chief engineer', 'Purser'] },
]

/** Hours that a line or a queue may be given. In the demo all are open until somebody closes them: it begins whenever somebody begins it. */
const weekdays = [1, 2, 3, 4, 5]
const holidays = [
  { date: '2026-12-25', name: 'Christmas Day' },
  { date: '2026-12-26', name: 'Boxing Day' },
  { date: '2027-01-01', name: 'New Year\'s Day' },
]
const openingHours: OpeningHours[] = [
  {
    id: 'office',
    name: 'Office hours',
    zone: 'Europe/London',
    week: [...weekdays.map(day => ({ day, opens: 8 * 60, closes: 18 * 60 })), { day: 6, opens: 9 * 60, closes: 13 * 60 }],
    holidays,
  },
  { id: 'freight', name: 'Freight hours', zone: 'Europe/London', week: weekdays.map(day => ({ day, opens: 6 * 60, closes: 20 * 60 })), holidays },
]

const line = (id: string, name: string, number: string, promise: number, longestWait: number, greeting: string, hours: string | null): Line => ({
  id, name, number, promise: promise * second, greeting, greetings: [], hours,
  target: operators, night: mailboxOf(id), overflow: { after: longestWait * second, to: mailboxOf(id) },
  closedText: `Thank you for calling. The ${name} is closed at present.`, recording: 'onRequest',
})
/** For callers of whom it is known what they speak. */
const greetings: Line['greetings'] = [
  { language: 'Norwegian', from: 0, text: 'God dag, Merrowby Ferries, hva kan jeg hjelpe med?' },
  { language: 'Dutch', from: 0, text: 'Goedendag, Merrowby Ferries, waarmee kan ik u helpen?' },
  { language: 'German', from: 0, text: 'Guten Tag, Merrowby Ferries, was kann ich für Sie tun?' },
  { language: 'German', from: 18 * 60, text: 'Guten Abend, Merrowby Ferries, was kann ich für Sie tun?' },
  { language: 'French', from: 0, text: 'Bonjour, Merrowby Ferries, que puis-je faire pour vous\u00A0?' },
  { language: 'French', from: 18 * 60, text: 'Bonsoir, Merrowby Ferries, que puis-je faire pour vous\u00A0?' },
]
const accountCodes = [
  ['K-100', 'Freight customers'], ['K-114', 'Groups and charters'], ['K-200', 'Ship stores'], ['K-310', 'Insurance cases'], ['K-900', 'Harbour project'],
]
const lines: Line[] = [
  { ...line('general', 'General line', '+441632960000', 20, 240, 'Merrowby Ferries, how can I help?', null), greetings },
  line('freight', 'Freight line', '+441632960010', 20, 240, 'Merrowby Freight, how can I help?', null),
  line('harbour', 'Harbour line', '+441632960020', 15, 180, 'Stennick Harbour, how can I help?', null),
  line('directors', 'Directors\' line', '+441632960030', 10, 180, 'directors\' office of Merrowby Ferries, good to hear you.', null),
  // Callers who know what they want wait for those who do it.
  { ...line('reservations', 'Booking line', '+441632960040', 60, 240, 'Merrowby bookings, how can I help?', null), target: 'queue:reservations' },
  { ...line('control', 'Sailing news line', '+441632960050', 40, 240, 'Merrowby sailing news, how can I help?', null), target: 'queue:sailingNews' },
]

/** Queues that callers can be passed on to: the people of one department serve each. */
const queues = [
  { id: 'reservations', name: 'Reservations queue', number: '601', department: 'reservations', promise: 60 * second, ringing: 'turn', seats: 4 },
  { id: 'freight', name: 'Freight queue', number: '602', department: 'freight', promise: 45 * second, ringing: null, seats: 20 },
  { id: 'lostProperty', name: 'Lost property queue', number: '603', department: 'lostProperty', promise: 90 * second, ringing: 'order', seats: 20 },
  { id: 'sailingNews', name: 'Sailing news queue', number: '604', department: 'control', promise: 40 * second, ringing: 'skill', seats: 20 },
] as const

/** A queue that rings its members, some of whom know more about it than others, and tells callers their place. */
const rings = (ringing: Ringing, members: readonly string[]): Partial<Group> => ({
  ringing, ringTime: 15 * second, tries: 8, pauseAfter: 2, tellEvery: 30 * second, mostWaiting: 12, callBackDigit: '1',
  skills: ringing === 'skill' ? Object.fromEntries(members.map((member, index) => [member, 1 + index % 3])) : {},
})

/** After a call of these queues there are papers to be filled in. */
const wrapUp: Record<string, number> = { freight: 20 * second, reservations: 10 * second }

const directPrefix = '+441632960'

/** Short numbers of the network: the emergency numbers of the country, and one that is not. */
const shortNumbers: ShortNumber[] = [
  { number: '112', name: 'Emergency', emergency: true },
  { number: '999', name: 'Emergency', emergency: true },
  { number: '101', name: 'Police, not an emergency', emergency: false },
]
const firstExtension = 2100
const operatorCapacity = 12
const slots = 10
const firstSlotNumber = 701
const groupTries = 3
/** Milliseconds that a caller waits in a staff queue before the operators see to it. */
const longestInQueue = 240 * second
const queuePromise = 60 * second
const nicknames: Record<string, string> = {
  Dorothea: 'Dot',
  Percival: 'Percy',
  Rosalind: 'Roz',
  Matilda: 'Tilly',
  Barnaby: 'Barney',
  Cordelia: 'Delia',
  Fenella: 'Nell',
  Harriet: 'Hattie',
  Quentin: 'Quin',
  Ottilie: 'Otti',
}

/**
 * The company with about 180 people and telephones, or with as many as asked for: each department grows alike.
 * The same size always gives the same people.
 * @param settings other times than usual, for tests
 */
export function merrowby(size = 182, settings: Partial<Settings> = {}): Company {
  const people = peopleOf(size)
  const telephones = telephonesFor(people)
  return {
    version: 1,
    sites: byId(sites.map((name, position) => ({ id: siteId(name), name, position }))),
    departments: byId(departments.map(({ id, name, site, handles }, position) => ({ id, name, site: siteId(site), handles, position }))),
    people: byId(people),
    telephones: byId([...telephones, ...places]),
    groups: byId(groupsOf(people, telephones)),
    lines: byId(lines),
    trunks: byId(['east', 'west'].map(id => ({ id, name: id, channels: 21, kept: 1 }))),
    slots: byId(Array.from({ length: slots }, (_, index) => ({ id: slotId(index + 1), name: String(index + 1), number: String(firstSlotNumber + index) }))),
    shortNumbers: Object.fromEntries(shortNumbers.map(short => [short.number, short])),
    hours: byId(openingHours),
    zones: byId(zones),
    announcements: byId(announcements),
    duties: byId(duties),
    accountCodes: byId(accountCodes.map(([code = '', name = '']) => ({ id: `code:${code}`, code, name }))),
    settings: {
      ...nobody.settings, name: 'Merrowby Ferries', firstExtension: String(firstExtension), pageDefault, callBacksTo: ['inland', 'abroad'], ...settings,
    },
  }
}

const spoken = ['French', 'Dutch', 'Norwegian', 'German', 'Welsh', 'Polish']
const saidAs: Record<string, string> = {
  Quarrendon: 'KWO-ren-dun', Elderslie: 'EL-ders-lee', Birchenough: 'BER-chen-uff', Cobbleigh: 'COB-lee', Marchbanksy: 'MARSH-banks-ee', Varrow: 'VAH-roh',
  Hatherleigh: 'HATH-er-lee', Umberleigh: 'UM-ber-lee', Zennorby: 'ZEN-er-bee', Eskerdale: 'ES-ker-dale',
}
const notes = ['Mornings only on Thursdays.', 'Prefers a message to a call in the afternoon.', 'Deaf in the left ear: speak up.', 'Decides about refunds.']

/** What colleagues know of somebody. */
function known(first: string, last: string, index: number): Omit<Person, 'id' | 'first' | 'last' | 'nickname' | 'department' | 'role' | 'room' | 'mobile'> {
  return {
    former: index % 23 === 11 ? lastNames[(index * 7) % lastNames.length]! : null,
    languages: index % 4 === 1 ? [spoken[index % spoken.length]!, ...index % 12 === 1 ? [spoken[(index + 2) % spoken.length]!] : []] : [],
    said: saidAs[last] ?? (first === 'Keziah' ? 'ke-ZYE-ah' : ''),
    note: index % 17 === 9 ? notes[index % notes.length]! : '',
    deputies: [],
  }
}

function peopleOf(size: number): Person[] {
  const chance = chanceFrom(960)
  const counts = countsFor(size)
  const [afar, farther] = size > ordinarySize ? [otherFirstNames, otherLastNames] : [[], []]
  const names = { first: [...firstNames, ...afar], last: [...lastNames, ...farther] }
  const taken = new Set<string>()
  const people: Person[] = []
  for (const [which, department] of departments.entries()) {
    const head = people.length
    for (let i = 0; i < counts[which]! && people.length < size; i++) {
      const { first, last } = unusedName(chance, taken, people.length, names)
      people.push({
        id: `p${firstExtension + people.length}`,
        first,
        last,
        nickname: nicknames[first] ?? null,
        department: department.id,
        role: roleOf(department, i),
        room: `${department.site[0]}${100 + head + i}`,
        mobile: people.length % 3 === 0 && people.length < 3000 ? `+447700900${String(people.length / 3).padStart(3, '0')}` : null,
        ...known(first, last, people.length),
      })
    }
  }
  return people.map((person, index) => ({ ...person, deputies: deputiesOf(people, index) }))
}

/** How many each department has: as large a part of everybody as always, one at least where there are enough, and exactly so many altogether. */
function countsFor(size: number): number[] {
  const total = departments.reduce((sum, { people }) => sum + people, 0)
  const counts = departments.map(({ people }) => Math.max(1, Math.round(people * size / total)))
  for (let missing = size - counts.reduce((sum, count) => sum + count, 0), at = 0; missing > 0; missing--, at++) counts[at % counts.length]!++
  return counts
}

/** Two in three have somebody of their department who stands in for them: the next one, and the one after. */
function deputiesOf(people: readonly Person[], index: number): string[] {
  if (index % 3 === 2) return []
  return [1, 2].slice(0, 1 + index % 2).flatMap((step) => {
    const deputy = people[index + step]
    return deputy?.department === people[index]!.department ? [deputy.id] : []
  })
}

/** Everybody has one telephone. */
function telephonesFor(people: readonly Person[]): Telephone[] {
  const direct = new Set<string>(lines.map(({ number }) => number))
  return people.map(({ id, first, last, department }, index) => {
    const number = String(firstExtension + index)
    // A number reaches one telephone: of several with the same ending only the first has it.
    const own = directPrefix + number.slice(-3)
    const free = !direct.has(own)
    direct.add(own)
    return {
      id: `t${number}`, person: id, rank: 0, name: `${first} ${last}`, number,
      capacity: index < operatorSeats ? operatorCapacity : 1,
      // A few desks have no telephone plugged in, as everywhere.
      inService: index % 61 !== 60,
      pickupGroup: department, direct: free ? own : null,
      mayPage: index < operatorSeats ? 'safety' : 'no', mayListen: index === supervisorSeat, mayRecord: index < operatorSeats,
    }
  })
}

/** The operators, the queues, and each department as a group that rings whoever has been free longest. */
function groupsOf(people: readonly Person[], telephones: readonly Telephone[]): Group[] {
  const overflow = { after: longestInQueue, to: operators }
  const inDepartment = (id: string) => telephones.filter((_, index) => people[index]!.department === id).map(telephone => telephone.id)
  return [
    {
      id: operators,
      name: 'Operators',
      number: '0',
      members: telephones.slice(0, operatorSeats).map(({ id }) => id),
      distribution: 'queue',
      tries: groupTries,
      department: null,
      promise: queuePromise,
      wrapUp: 0,
      voluntary: [],
      overflow,
      ...waitingOnly,
      hours: null,
    },
    ...queues.map(({ id, name, number, department, promise, ringing, seats }): Group => ({
      id: `queue:${id}`,
      name,
      number,
      members: inDepartment(department).slice(0, seats),
      distribution: 'queue',
      tries: groupTries,
      department,
      promise,
      wrapUp: wrapUp[id] ?? 0,
      // Every third member helps out when they can.
      voluntary: inDepartment(department).slice(0, seats).filter((_, index) => index % 3 === 2),
      overflow,
      ...waitingOnly,
      ...ringing && rings(ringing, inDepartment(department).slice(0, seats)),
      closedText: `The ${name.replace(' queue', '')} desk is closed. We put you through to our operators.`,
      hours: null,
    })),
    ...departments.map(({ id, name }, index): Group => ({
      id: `group:${id}`,
      name,
      number: String(501 + index),
      members: inDepartment(id),
      distribution: 'longestFree',
      tries: groupTries,
      department: id,
      promise: queuePromise,
      wrapUp: 0,
      voluntary: [],
      overflow,
      ...waitingOnly,
      hours: null,
    })),
  ]
}

/** One head to a department, the other roles in turn. */
function roleOf({ roles }: Plan, index: number): string {
  return index === 0 || roles.length === 1 ? roles[0]! : roles[1 + (index - 1) % (roles.length - 1)]!
}

/** The operators and the sign-ins of the demo keep their names whatever the size. */
const fixedNames = [['Ines', 'Quillfeather'], ['Tomas', 'Arkwell'], ['Bryony', 'Lusk']] as const
/** After so many names that are taken, somebody has a double one: there are only so many single ones. */
const mostTries = 30

function unusedName(chance: Chance, taken: Set<string>, index: number, names: { first: readonly string[], last: readonly string[] }) {
  const fixed = fixedNames[index]
  for (let tries = 0; ; tries++) {
    const first = fixed?.[0] ?? chance.pick(names.first)
    const last = fixed?.[1] ?? (tries < mostTries ? chance.pick(names.last) : `${chance.pick(names.last)}-${chance.pick(names.last)}`)
    if (!taken.has(`${first} ${last}`)) {
      taken.add(`${first} ${last}`)
      return { first, last }
    }
  }
}
