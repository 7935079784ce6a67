import { chanceFrom } from './chance'
import { firstNames, lastNames } from './names'

/** Merrowby Ferries, the invented company of the demo: who works there, and which numbers reach it. */

export interface Person {
  extension: string
  first: string
  last: string
  nickname: string | null
  department: string
  role: string
  room: string
  /** E.164, for those who carry one. */
  mobile: string | null
}

export interface Department {
  id: string
  name: string
  site: string
  /** What people call about, in the words that callers use. */
  handles: string[]
  roles: string[]
  people: number
}

export interface CompanyLine {
  id: string
  name: string
  /** E.164. */
  number: string
  /** Seconds within which a call on this line is promised an answer. */
  promise: number
  /** Seconds after which a caller who has reached nobody is sent to the line's voicemail. */
  longestWait: number
  /** What the operator says, after the greeting for the time of day. */
  greeting: string
}

/** A queue that callers can be passed on to: the people of one department serve it. */
export interface CompanyQueue {
  id: string
  name: string
  /** The short number that reaches it from inside. */
  number: string
  department: string
}

export interface World {
  departments: Department[]
  people: Person[]
  lines: CompanyLine[]
  queues: CompanyQueue[]
  operatorsGroup: { id: string, name: string, number: string, members: string[] }
}

const quay = 'Merrowby Quay'
const stennick = 'Stennick Harbour'
const hallow = 'Isle of Hallow'
const sea = 'At sea'

export const departments: Department[] = [
  { id: 'relay', name: 'Front desk', site: quay, people: 3, handles: ['switchboard', 'reception', 'visitors'], roles: ['Operator', 'Operator', 'Supervisor'] },
  { id: 'directors', name: 'Directors\' office', site: quay, people: 6, handles: ['complaints to the directors', 'press questions'], roles: ['Managing director', 'Finance director', 'Fleet director', 'Assistant to the directors'] },
  { id: 'reservations', name: 'Reservations', site: quay, people: 22, handles: ['bookings', 'tickets', 'changing a booking', 'a car on the ferry', 'refunds'], roles: ['Team leader', 'Reservations agent', 'Web bookings'] },
  { id: 'groups', name: 'Group travel', site: quay, people: 8, handles: ['school trips', 'coach parties', 'weddings on board'], roles: ['Group planner', 'Coach bookings'] },
  { id: 'freight', name: 'Freight', site: stennick, people: 14, handles: ['lorries', 'trailers', 'customs papers', 'dangerous goods', 'parcels'], roles: ['Freight desk', 'Customs clerk', 'Yard planner', 'Team leader'] },
  { id: 'harbour', name: 'Harbour office', site: stennick, people: 9, handles: ['berths', 'moorings', 'harbour dues', 'pilotage'], roles: ['Harbour master', 'Deputy harbour master', 'Berthing', 'Harbour clerk'] },
  { id: 'control', name: 'Sailing control', site: stennick, people: 8, handles: ['sailing times', 'delays', 'cancelled sailings', 'weather'], roles: ['Duty controller', 'Timetable planner'] },
  { id: 'crewing', name: 'Crewing', site: quay, people: 10, handles: ['crew rosters', 'seafarers\' papers', 'jobs on board'], roles: ['Crewing officer', 'Roster planner', 'Training'] },
  { id: 'workshop', name: 'Workshop', site: stennick, people: 14, handles: ['engines', 'repairs', 'spare parts', 'dry dock'], roles: ['Foreman', 'Fitter', 'Welder', 'Parts store'] },
  { id: 'electrical', name: 'Electrical', site: stennick, people: 7, handles: ['lighting', 'radio and radar', 'ramp power'], roles: ['Electrician', 'Radio technician'] },
  { id: 'catering', name: 'Catering stores', site: stennick, people: 9, handles: ['deliveries of food', 'the ship\'s kitchen', 'suppliers'], roles: ['Stores', 'Catering planner', 'Purchasing'] },
  { id: 'stennickTerminal', name: 'Stennick terminal', site: stennick, people: 10, handles: ['check-in at Stennick', 'wheelchair help', 'parking at Stennick'], roles: ['Terminal supervisor', 'Check-in', 'Passenger help'] },
  { id: 'hallowPier', name: 'Hallow pier', site: hallow, people: 6, handles: ['check-in at Hallow', 'island buses', 'the pier gate'], roles: ['Pier supervisor', 'Check-in'] },
  { id: 'lostProperty', name: 'Lost property', site: stennick, people: 3, handles: ['lost luggage', 'a lost umbrella', 'a lost telephone', 'something left on board'], roles: ['Lost property clerk'] },
  { id: 'accounts', name: 'Accounts', site: quay, people: 12, handles: ['invoices', 'payments', 'reminders', 'VAT'], roles: ['Bookkeeper', 'Payables', 'Receivables', 'Payroll'] },
  { id: 'people', name: 'People team', site: quay, people: 7, handles: ['applications', 'apprenticeships', 'references'], roles: ['People partner', 'Recruiting'] },
  { id: 'it', name: 'IT', site: quay, people: 9, handles: ['the website', 'ticket machines', 'computers'], roles: ['Help desk', 'Networks', 'Systems'] },
  { id: 'marketing', name: 'Marketing', site: quay, people: 8, handles: ['brochures', 'sponsorship', 'advertising', 'photographs'], roles: ['Campaigns', 'Press officer', 'Design'] },
  { id: 'safety', name: 'Safety', site: quay, people: 6, handles: ['accidents', 'drills', 'inspections'], roles: ['Safety officer', 'Inspector'] },
  { id: 'curlew', name: 'MV Curlew', site: sea, people: 4, handles: ['the Curlew'], roles: ['Master', 'Chief engineer', 'Purser', 'Galley'] },
  { id: 'sandpiper', name: 'MV Sandpiper', site: sea, people: 4, handles: ['the Sandpiper'], roles: ['Master', 'Chief engineer', 'Purser', 'Galley'] },
  { id: 'dunlin', name: 'MV Dunlin', site: sea, people: 3, handles: ['the Dunlin'], roles: ['Master', 'Chief engineer', 'Purser'] },
]

export const companyLines: CompanyLine[] = [
  { id: 'general', name: 'General line', number: '+441632960000', promise: 20, longestWait: 240, greeting: 'Merrowby Ferries, how can I help?' },
  { id: 'freight', name: 'Freight line', number: '+441632960010', promise: 20, longestWait: 240, greeting: 'Merrowby Freight, how can I help?' },
  { id: 'harbour', name: 'Harbour line', number: '+441632960020', promise: 15, longestWait: 180, greeting: 'Stennick Harbour, how can I help?' },
  { id: 'directors', name: 'Directors\' line', number: '+441632960030', promise: 10, longestWait: 180, greeting: 'directors\' office of Merrowby Ferries, good to hear you.' },
]

export const companyQueues: CompanyQueue[] = [
  { id: 'reservations', name: 'Reservations queue', number: '601', department: 'reservations' },
  { id: 'freight', name: 'Freight queue', number: '602', department: 'freight' },
  { id: 'lostProperty', name: 'Lost property queue', number: '603', department: 'lostProperty' },
  { id: 'sailingNews', name: 'Sailing news queue', number: '604', department: 'control' },
]

const directPrefix = '+441632960'

/** The number that reaches an extension from outside, E.164: the prefix and its last three digits. */
export function directNumberOf(extension: string): string {
  return directPrefix + extension.slice(-3)
}

/** Short numbers of the network: the emergency numbers of the country, and one that is not. */
export const shortNumbers = [
  { number: '112', name: 'Emergency', emergency: true },
  { number: '999', name: 'Emergency', emergency: true },
  { number: '101', name: 'Police, not an emergency', emergency: false },
]
const firstExtension = 2100
const nicknames: Record<string, string> = {
  Dorothea: 'Dot', Percival: 'Percy', Rosalind: 'Roz', Matilda: 'Tilly', Barnaby: 'Barney', Cordelia: 'Delia', Fenella: 'Nell', Harriet: 'Hattie', Quentin: 'Quin', Ottilie: 'Otti',
}

/**
 * The company with about 180 extensions, or with as many as asked for: each department grows alike.
 * The same size always gives the same people.
 */
export function merrowby(size = 182): World {
  const chance = chanceFrom(960)
  const total = departments.reduce((sum, department) => sum + department.people, 0)
  const taken = new Set<string>()
  const people: Person[] = []
  for (const department of departments) {
    const head = people.length
    const count = Math.max(1, Math.round(department.people * size / total))
    for (let i = 0; i < count && people.length < size; i++) {
      const { first, last } = unusedName(chance, taken, people.length)
      people.push({
        extension: String(firstExtension + people.length),
        first,
        last,
        nickname: nicknames[first] ?? null,
        department: department.id,
        role: roleOf(department, i),
        room: `${department.site[0]}${100 + head + i}`,
        mobile: people.length % 3 === 0 && people.length < 3000 ? `+447700900${String(people.length / 3).padStart(3, '0')}` : null,
      })
    }
  }
  return {
    departments,
    people,
    lines: companyLines,
    queues: companyQueues,
    operatorsGroup: { id: 'operators', name: 'Operators', number: '0', members: people.slice(0, 3).map(person => person.extension) },
  }
}

/** One head to a department, the other roles in turn. */
function roleOf({ roles }: Department, index: number): string {
  return index === 0 || roles.length === 1 ? roles[0]! : roles[1 + (index - 1) % (roles.length - 1)]!
}

/** The operators and the sign-ins of the demo keep their names whatever the size. */
const fixedNames = [['Ines', 'Quillfeather'], ['Tomas', 'Arkwell'], ['Bryony', 'Lusk']] as const

function unusedName(chance: ReturnType<typeof chanceFrom>, taken: Set<string>, index: number) {
  const fixed = fixedNames[index]
  for (;;) {
    const first = fixed?.[0] ?? chance.pick(firstNames)
    const last = fixed?.[1] ?? chance.pick(lastNames)
    if (!taken.has(`${first} ${last}`)) {
      taken.add(`${first} ${last}`)
      return { first, last }
    }
  }
}
