import type { Part } from '~~/core/company/changes'
import { type Company, distributions, type Greeting, type OpeningHours, numberClasses, pageRanks, pagingRights, ringings } from '~~/core/company/company'
import { levelKinds } from '~~/core/figures/level-kinds'
import { lookUp, telephonesOf } from '~~/core/company/lookups'
import { dayNames, greetingsAsText, holidaysAsText, timesAsText } from '~~/core/company/written'
import type { ToneKind } from '~~/core/sound/country-tones'
import { ownerOfMailbox } from '~~/core/calls/names'
import { freeNumber, takenNumbers } from '~~/core/company/free-number'
import { formatNumber } from '~/composables/numbers'

/** How each part of the company is shown and filled in. */

/** `one`, `many`: things of another part, by their ids; `destination`: where calls go; `seconds` are kept as milliseconds. */
export type FieldKind
  = 'text' | 'long' | 'number' | 'seconds' | 'check' | 'texts' | 'choice' | 'one' | 'many' | 'destination' | 'week' | 'holidays' | 'greetings' | 'skills'
    | 'country' | 'choices' | 'tone'

export interface FormField {
  /** Where it stands in the thing: "overflow.after". */
  at: string
  label: string
  kind: FieldKind
  of?: Part
  choices?: readonly string[]
  /** It means something only where another field has this value. */
  when?: { at: string, is: string }
  /** It may be empty, and is null then. */
  optional?: true
}

export interface PartForm<P extends Part = Part> {
  title: string
  /** One of them, in a sentence. */
  one: string
  /** What a new one begins with. */
  blank: (company: Company) => Company[P][string]
  fields: readonly FormField[]
}

const text = (at: string, label: string): FormField => ({ at, label, kind: 'text' })
const whole = (at: string, label: string): FormField => ({ at, label, kind: 'number' })
const seconds = (at: string, label: string): FormField => ({ at, label, kind: 'seconds' })
const check = (at: string, label: string): FormField => ({ at, label, kind: 'check' })
const choice = (at: string, label: string, choices: readonly string[]): FormField => ({ at, label, kind: 'choice', choices })
const choices = (at: string, label: string, all: readonly string[]): FormField => ({ at, label, kind: 'choices', choices: all })
const one = (at: string, label: string, of: Part): FormField => ({ at, label, kind: 'one', of })
const many = (at: string, label: string, of: Part): FormField => ({ at, label, kind: 'many', of })
const tone = (kind: ToneKind, label: string): FormField => ({ at: `tones.${kind}`, label, kind: 'tone' })
const texts = (at: string, label: string): FormField => ({ at, label, kind: 'texts' })
const long = (at: string, label: string): FormField => ({ at, label, kind: 'long' })
const destination = (at: string, label: string): FormField => ({ at, label, kind: 'destination' })
const ifAny = (field: FormField): FormField => ({ ...field, optional: true })

export const newId = (what: string) => `${what}-${crypto.randomUUID()}`
const first = (things: Record<string, { id: string }>) => Object.values(things)[0]?.id ?? ''
const next = (things: Record<string, { position: number }>) => Math.max(-1, ...Object.values(things).map(({ position }) => position)) + 1

export const partForms: { [P in Part]: PartForm<P> } = {
  people: {
    title: 'People', one: 'person',
    blank: company => ({
      id: newId('p'), first: '', last: '', nickname: null, former: null, department: first(company.departments), role: '', room: '', mobile: null,
      languages: [],
      said: '', note: '', deputies: [],
    }),
    fields: [
      text('first', 'First name'), text('last', 'Last name'), one('department', 'Department', 'departments'), text('role', 'Role'), text('room', 'Room'),
      ifAny(text('mobile', 'Mobile')), ifAny(text('nickname', 'Nickname')), ifAny(text('former', 'Former last name')), text('said',
        'How the name is said'),
      texts('languages', 'Speaks, beside the language of the house'), long('note', 'Note for who puts callers through'),
      many('deputies', 'Who stands in', 'people'),
    ],
  },
  telephones: {
    title: 'Telephones', one: 'telephone',
    blank: company => ({
      id: newId('t'), person: null, rank: 0, name: '', number: '', capacity: 2, inService: true, pickupGroup: first(company.departments), direct: null,
      mayPage: 'no',
    }),
    fields: [
      text('number', 'Extension'), ifAny(one('person', 'Whose', 'people')), text('name', 'Place, when it is nobody\'s'),
      ifAny(text('direct', 'Direct number, from outside')),
      one('pickupGroup', 'Pickup group', 'departments'), whole('capacity', 'Calls at once'), whole('rank', 'Of several of one person: which first'),
      choice('mayPage', 'May page, up to', pagingRights), check('inService', 'In service'),
    ],
  },
  departments: {
    title: 'Departments', one: 'department',
    blank: company => ({ id: newId('d'), name: '', site: first(company.sites), handles: [], position: next(company.departments) }),
    fields: [text('name', 'Name'), one('site', 'Site', 'sites'), texts('handles', 'What people call about'), whole('position', 'Place among the others')],
  },
  sites: {
    title: 'Sites', one: 'site',
    blank: company => ({ id: newId('s'), name: '', position: next(company.sites) }),
    fields: [text('name', 'Name'), whole('position', 'Place among the others')],
  },
  lines: {
    title: 'Lines', one: 'line',
    blank: company => ({
      id: newId('l'), name: '', number: '', promise: 20_000, greeting: '', greetings: [], target: company.settings.operators, night: company.settings.operators,
      overflow: { after: 240_000, to: company.settings.operators }, closedText: '', hours: null,
    }),
    fields: [
      text('name', 'Name'), text('number', 'Number, with its area code'), text('greeting', 'Greeting, after good morning'),
      { at: 'greetings', label: 'Said instead, by time and language', kind: 'greetings' }, seconds('promise', 'Promise, seconds'),
      one('target', 'Calls go to', 'groups'), destination('night', 'When nobody serves it'), seconds('overflow.after', 'After so many seconds'),
      destination('overflow.to', 'they go to'), ifAny(one('hours', 'Open', 'hours')), long('closedText', 'What callers hear when it is closed'),
    ],
  },
  groups: {
    title: 'Groups and queues', one: 'group',
    blank: company => ({
      id: newId('g'), name: '', number: '', members: [], distribution: 'longestFree', tries: 3, department: null, promise: 30_000, wrapUp: 0, voluntary: [],
      ringing: 'none', ringTime: 15_000, pauseAfter: 0, skills: {}, tellEvery: 0, closedText: '', mostWaiting: 0, callBackDigit: '',
      overflow: { after: 300_000, to: company.settings.operators }, hours: null,
    }),
    fields: [
      text('name', 'Name'), text('number', 'Number'), choice('distribution', 'How calls are given out', distributions),
      many('members', 'Members, in order', 'telephones'),
      many('voluntary', 'Of them, who may leave', 'telephones'), ifAny(one('department', 'Of the department', 'departments')), whole('tries', 'Members tried'),
      choice('ringing', 'A queue rings', ringings),
      { at: 'skills', label: 'Skill of each, the most skilled first', kind: 'skills', when: { at: 'ringing', is: 'skill' } },
      seconds('ringTime', 'for seconds'), seconds('promise', 'Promise, seconds'),
      seconds('wrapUp', 'Time after a call, seconds'), whole('pauseAfter', 'Paused after calls not taken'),
      seconds('tellEvery', 'Tells the place every, seconds'),
      whole('mostWaiting', 'Most who wait'), text('callBackDigit', 'Key to be called back'), seconds('overflow.after', 'After so many seconds'),
      destination('overflow.to', 'they go to'),
      ifAny(one('hours', 'Open', 'hours')), long('closedText', 'What callers hear when it is closed'),
    ],
  },
  hours: {
    title: 'Opening hours', one: 'set of opening hours',
    blank: company => ({ id: newId('h'), name: '', zone: company.settings.zone, week: [], holidays: [] }),
    fields: [text('name', 'Name'), text('zone', 'Time zone'), { at: 'week', label: 'Week', kind: 'week' }, { at: 'holidays', label: 'Closed on',
      kind: 'holidays' }],
  },
  slots: {
    title: 'Park slots', one: 'park slot',
    blank: company => ({
      id: newId('slot:n'), name: nextName(company.slots),
      number: freeNumber(company.settings, takenNumbers(company), Object.values(company.slots).at(-1)?.number),
    }),
    fields: [text('name', 'Name'), text('number', 'Number')],
  },
  zones: {
    title: 'Loudspeaker zones', one: 'loudspeaker zone',
    blank: company => ({ id: newId('z'), name: '', number: '', site: first(company.sites), speakers: [], position: next(company.zones) }),
    fields: [
      text('name', 'Name'), text('number', 'Number'), one('site', 'Site', 'sites'), texts('speakers', 'Loudspeakers'), whole('position',
        'Place among the others'),
    ],
  },
  announcements: {
    title: 'Announcements', one: 'announcement',
    blank: company => ({ id: newId('a'), occasion: '', text: '', rank: 'ordinary', twice: false, position: next(company.announcements) }),
    fields: [
      text('occasion', 'Occasion'), long('text', 'Text'), choice('rank', 'Rank', pageRanks), check('twice', 'Said twice'), whole('position',
        'Place among the others'),
    ],
  },
  duties: {
    title: 'Duties', one: 'duty',
    blank: company => ({ id: newId('duty'), name: '', handles: [], instead: company.settings.operators, position: next(company.duties) }),
    fields: [
      text('name', 'Name'), texts('handles', 'What it is asked for'), destination('instead', 'When nobody is on duty'), whole('position',
        'Place among the others'),
    ],
  },
  accountCodes: {
    title: 'Account codes', one: 'account code',
    blank: () => ({ id: newId('code'), code: '', name: '' }),
    fields: [text('code', 'Code'), text('name', 'What for')],
  },
  trunks: {
    title: 'Trunks', one: 'trunk',
    blank: () => ({ id: newId('trunk'), name: '', channels: 2, kept: 0 }),
    fields: [text('name', 'Name'), whole('channels', 'Channels'), whole('kept', 'Of them, kept for emergencies')],
  },
  shortNumbers: {
    title: 'Short numbers', one: 'short number',
    blank: () => ({ number: '', name: '', emergency: false }),
    fields: [text('number', 'Number'), text('name', 'Name'), check('emergency', 'Emergency: always gets through')],
  },
}

export const settingsFields: readonly FormField[] = [
  text('name', 'Name of the house'), { at: 'country', label: 'Country', kind: 'country' }, text('language', 'Language of the house'),
  text('zone', 'Time zone of the house'), text('firstExtension', 'Extensions begin at'), whole('longestInside', 'Longest number inside, digits'),
  one('operators', 'The operators', 'groups'), seconds('transferRecall', 'A transfer comes back after, seconds'),
  seconds('noAnswer', 'An unanswered call goes on after, seconds'), seconds('queueRecall', 'A call in a queue comes back after, seconds'),
  seconds('parkRecall', 'A parked call comes back after, seconds'), seconds('holdRecall', 'A call on hold rings again after, seconds'),
  seconds('holdLimit', 'On hold with an operator, offered to the others after, seconds'),
  seconds('absence', 'Callers of an operator who has gone, offered to the others after, seconds'),
  seconds('overflow', 'A call waits for the operators at most, seconds'), seconds('outsideWatch', 'Two outside stay in view, seconds'),
  seconds('outsideLongest', 'Two outside are parted after, seconds'), seconds('longestMessage', 'A voice message, at most, seconds'),
  seconds('ringCycle', 'One ring, seconds'), seconds('failedTone', 'The tone after a failed call, seconds'),
  tone('ringing', 'Tone while it rings'), tone('busy', 'Tone when somebody talks'), tone('congestion', 'Tone when no line is free'),
  tone('unobtainable', 'Tone when nobody can be reached'), whole('conferenceSize', 'Most in a conference'),
  seconds('pageSilence', 'A silent page closes after, seconds'), seconds('pageWait', 'A page waits for loudspeakers, seconds'),
  choice('pageOverDoNotDisturb', 'Do not disturb lets pages through, from the rank', pageRanks), ifAny(destination('pageDefault', 'Pages go by one key to')),
  choice('serviceLevel', 'The service level is counted of those', levelKinds), seconds('shortAbandon', 'Who gives up within so long does not count, seconds'),
  whole('callBackTries', 'Callers are called back at most, times'), seconds('callBackAgain', 'and again after, seconds'),
  seconds('callBackWithin', 'A promised call-back is late after, seconds'),
  choices('callsTo', 'Numbers that may be called', numberClasses), choices('callBacksTo', 'Numbers that callers may be called back at', numberClasses),
  check('listedCodesOnly', 'Only account codes of the list'), texts('pauseReasons', 'Why members of a queue pause'),
]

/** What a thing of the company is called. */
export function titleOf(company: Company, part: Part, id: string): string {
  const thing = lookUp(company[part] as Record<string, Partial<Record<'name' | 'first' | 'last' | 'number' | 'occasion', string>>>, id)
  if (!thing) return id
  return thing.name || `${thing.first ?? ''} ${thing.last ?? ''}`.trim() || thing.number || thing.occasion || id
}

/** "3" after 1 and 2. */
function nextName(things: Record<string, { name: string }>): string {
  return String(Math.max(0, ...Object.values(things).map(({ name }) => Number(name) || 0)) + 1)
}

/** Everything by which a thing of the company is looked for: its names, and its numbers however they are written. */
export function searchedOf(company: Company, part: Part, id: string): string {
  const thing = lookUp(company[part] as Record<string, object>, id) as Record<string, unknown> | undefined
  const own = part === 'people' ? telephonesOf(company, id).flatMap(({ number, direct }) => [number, direct]) : []
  const numbers = [thing?.number, thing?.direct, thing?.mobile, ...own].filter(one => typeof one === 'string')
  const written = numbers.flatMap(number => [number, formatNumber(number), formatNumber(number).replace(/\D/g, '')])
  return [titleOf(company, part, id), besideOf(company, part, id), thing?.room, ...written].filter(Boolean).join(' ')
}

/** A value of a field as people read it. */
export function wordsOf(company: Company, field: FormField, value: unknown): string {
  if (value === null || value === undefined || value === '' || (Array.isArray(value) && value.length === 0)) return 'nothing'
  const named = (part: Part, id: unknown) => titleOf(company, part, String(id))
  switch (field.kind) {
    case 'seconds': return `${Number(value) / 1_000} s`
    case 'check': return value ? 'yes' : 'no'
    case 'one': return named(field.of!, value)
    case 'many': return (value as string[]).map(id => named(field.of!, id)).join(', ')
    case 'choice': return choiceWords[String(value)] ?? String(value)
    case 'choices': return (value as string[]).map(one => choiceWords[one] ?? one).join(', ')
    case 'texts': return (value as string[]).join(', ')
    case 'week': {
      const week = value as OpeningHours['week']
      const days = dayNames.map((name, index) => `${name.slice(0, 3)} ${timesAsText(week.filter(({ day }) => day === index + 1)) || 'closed'}`)
      return days.join(', ')
    }
    case 'holidays': return holidaysAsText(value as OpeningHours['holidays']).replaceAll('\n', ', ')
    case 'greetings': return greetingsAsText(value as Greeting[]).replaceAll('\n', ', ')
    case 'skills': return Object.entries(value as Record<string, number>).map(([id, skill]) => `${named('telephones', id)} ${skill}`).join(', ') || 'nothing'
    case 'destination': {
      const box = ownerOfMailbox(String(value))
      if (box !== null) return `voicemail of ${lookUp(company.lines, box)?.name ?? named('telephones', box)}`
      const device = (['groups', 'telephones', 'zones'] as const).find(part => lookUp(company[part] as Record<string, object>, String(value)))
      return device ? named(device, value) : formatNumber(String(value))
    }
    default: return typeof value === 'object' ? JSON.stringify(value) : /^\+\d+$/.test(String(value)) ? formatNumber(String(value)) : String(value)
  }
}

/** What the choices are called. */
export const choiceWords: Record<string, string> = {
  queue: 'all wait in it', longestFree: 'to who has been free longest', all: 'to all at once', none: 'nobody: they take callers themselves', order: 'in order',
  turn: 'in turn', skill: 'by skill',
  inland: 'of the country', abroad: 'abroad', premium: 'at a premium, or to personal numbers and pagers', satellite: 'by satellite',
}

/** The field of a part under a name, also of one that lies deeper: "overflow.after". */
export function fieldsOf(part: Part | 'settings'): readonly FormField[] {
  return part === 'settings' ? settingsFields : partForms[part].fields
}

/** What is said beside its name in a list. */
export function besideOf(company: Company, part: Part, id: string): string {
  const thing = lookUp(company[part] as Record<string, object>, id) as Record<string, unknown> | undefined
  switch (part) {
    case 'people': return `${titleOf(company, 'departments', String(thing?.department))}${thing?.role ? `, ${String(thing.role)}` : ''}`
    case 'telephones': case 'groups': case 'lines': case 'zones': return String(thing?.number ?? '')
    case 'departments': return titleOf(company, 'sites', String(thing?.site))
    case 'announcements': return String(thing?.text ?? '').slice(0, 60)
    case 'accountCodes': return String(thing?.code ?? '')
    case 'trunks': return `${String(thing?.channels)} channels`
    default: return ''
  }
}
