import type { Part } from '~~/core/company/changes'
import {
  type Company, distributions, type Greeting, type OpeningHours, numberClasses, pageRanks, pagingRights, recordingRules, ringings,
} from '~~/core/company/company'
import { levelKinds } from '~~/core/figures/level-kinds'
import { lookUp, telephonesOf } from '~~/core/company/lookups'
import { greetingsAsText, holidaysAsText, timesAsText, weekdays } from '~~/core/company/written'
import type { ToneKind } from '~~/core/sound/country-tones'
import { ownerOfMailbox } from '~~/core/calls/names'
import { freeNumber, takenNumbers } from '~~/core/company/free-number'
import type { PlainKey } from '~~/words/speaker'
import { t } from '~/composables/language'
import { formatNumber } from '~/composables/numbers'

/** How each part of the company is shown and filled in. */

/** `one`, `many`: things of another part, by their ids; `destination`: where calls go; `seconds` are kept as milliseconds. */
export type FieldKind
  = 'text' | 'long' | 'number' | 'seconds' | 'check' | 'texts' | 'choice' | 'one' | 'many' | 'destination' | 'week' | 'holidays' | 'greetings' | 'skills'
    | 'country' | 'choices' | 'tone'

export interface FormField {
  /** Where it stands in the thing: "overflow.after". */
  at: string
  label: PlainKey
  kind: FieldKind
  of?: Part
  choices?: readonly string[]
  /** It means something only where another field has this value. */
  when?: { at: string, is: string }
  /** It may be empty, and is null then. */
  optional?: true
}

export interface PartForm<P extends Part = Part> {
  title: PlainKey
  /** One of them, in a sentence. */
  one: PlainKey
  /** What a new one begins with. */
  blank: (company: Company) => Company[P][string]
  fields: readonly FormField[]
}

const text = (at: string, label: PlainKey): FormField => ({ at, label, kind: 'text' })
const whole = (at: string, label: PlainKey): FormField => ({ at, label, kind: 'number' })
const seconds = (at: string, label: PlainKey): FormField => ({ at, label, kind: 'seconds' })
const check = (at: string, label: PlainKey): FormField => ({ at, label, kind: 'check' })
const choice = (at: string, label: PlainKey, choices: readonly string[]): FormField => ({ at, label, kind: 'choice', choices })
const choices = (at: string, label: PlainKey, all: readonly string[]): FormField => ({ at, label, kind: 'choices', choices: all })
const one = (at: string, label: PlainKey, of: Part): FormField => ({ at, label, kind: 'one', of })
const many = (at: string, label: PlainKey, of: Part): FormField => ({ at, label, kind: 'many', of })
const tone = (kind: ToneKind, label: PlainKey): FormField => ({ at: `tones.${kind}`, label, kind: 'tone' })
const texts = (at: string, label: PlainKey): FormField => ({ at, label, kind: 'texts' })
const long = (at: string, label: PlainKey): FormField => ({ at, label, kind: 'long' })
const destination = (at: string, label: PlainKey): FormField => ({ at, label, kind: 'destination' })
const ifAny = (field: FormField): FormField => ({ ...field, optional: true })

export const newId = (what: string) => `${what}-${crypto.randomUUID()}`
const first = (things: Record<string, { id: string }>) => Object.values(things)[0]?.id ?? ''
const next = (things: Record<string, { position: number }>) => Math.max(-1, ...Object.values(things).map(({ position }) => position)) + 1

export const partForms: { [P in Part]: PartForm<P> } = {
  people: {
    title: 'common.people', one: 'company.onePerson',
    blank: company => ({
      id: newId('p'), first: '', last: '', nickname: null, former: null, department: first(company.departments), role: '', room: '', mobile: null,
      languages: [],
      said: '', note: '', deputies: [],
    }),
    fields: [
      text('first', 'company.firstName'), text('last', 'company.lastName'), one('department', 'company.department', 'departments'),
      text('role', 'common.role'), text('room', 'company.room'),
      ifAny(text('mobile', 'common.mobile')), ifAny(text('nickname', 'company.nickname')), ifAny(text('former', 'company.formerLastName')), text('said',
        'company.howTheNameIsSaid'),
      texts('languages', 'company.speaksBesideTheLanguageOf'), long('note', 'company.noteForWhoPutsCallers'),
      many('deputies', 'company.whoStandsIn', 'people'),
    ],
  },
  telephones: {
    title: 'company.telephones', one: 'company.oneTelephone',
    blank: company => ({
      id: newId('t'), person: null, rank: 0, name: '', number: '', capacity: 2, inService: true, pickupGroup: first(company.departments), direct: null,
      mayPage: 'no', mayListen: false, mayRecord: false,
    }),
    fields: [
      text('number', 'company.extension'), ifAny(one('person', 'company.whose', 'people')), text('name', 'company.placeWhenItIsNobodys'),
      ifAny(text('direct', 'company.directNumberFromOutside')),
      one('pickupGroup', 'company.pickupGroup', 'departments'), whole('capacity', 'company.callsAtOnce'), whole('rank', 'company.ofSeveralOfOnePerson'),
      choice('mayPage', 'company.mayPageUpTo', pagingRights), check('mayListen', 'company.mayListen'), check('mayRecord', 'company.mayRecord'),
      check('inService', 'company.inService'),
    ],
  },
  departments: {
    title: 'company.departments', one: 'company.oneDepartment',
    blank: company => ({ id: newId('d'), name: '', site: first(company.sites), handles: [], position: next(company.departments) }),
    fields: [text('name', 'common.name'), one('site', 'company.site', 'sites'), texts('handles', 'company.whatPeopleCallAbout'),
      whole('position', 'company.placeAmongTheOthers')],
  },
  sites: {
    title: 'company.sites', one: 'company.oneSite',
    blank: company => ({ id: newId('s'), name: '', position: next(company.sites) }),
    fields: [text('name', 'common.name'), whole('position', 'company.placeAmongTheOthers')],
  },
  lines: {
    title: 'company.lines', one: 'company.oneLine',
    blank: company => ({
      id: newId('l'), name: '', number: '', promise: 20_000, greeting: '', greetings: [], target: company.settings.operators, night: company.settings.operators,
      overflow: { after: 240_000, to: company.settings.operators }, closedText: '', recording: 'onRequest', hours: null,
    }),
    fields: [
      text('name', 'common.name'), text('number', 'company.numberWithItsAreaCode'), text('greeting', 'company.greetingAfterGoodMorning'),
      { at: 'greetings', label: 'company.saidInsteadByTimeAnd', kind: 'greetings' }, seconds('promise', 'company.promiseSeconds'),
      one('target', 'company.callsGoTo', 'groups'), destination('night', 'company.whenNobodyServesIt'), seconds('overflow.after', 'company.afterSoManySeconds'),
      destination('overflow.to', 'company.theyGoTo'), ifAny(one('hours', 'common.open', 'hours')), long('closedText', 'company.whatCallersHearWhenIt'),
      choice('recording', 'company.callsAreRecorded', recordingRules),
    ],
  },
  groups: {
    title: 'company.groupsAndQueues', one: 'company.oneGroup',
    blank: company => ({
      id: newId('g'), name: '', number: '', members: [], distribution: 'longestFree', tries: 3, department: null, promise: 30_000, wrapUp: 0, voluntary: [],
      ringing: 'none', ringTime: 15_000, pauseAfter: 0, skills: {}, tellEvery: 0, closedText: '', mostWaiting: 0, callBackDigit: '',
      overflow: { after: 300_000, to: company.settings.operators }, hours: null,
    }),
    fields: [
      text('name', 'common.name'), text('number', 'common.number'), choice('distribution', 'company.howCallsAreGivenOut', distributions),
      many('members', 'company.membersInOrder', 'telephones'),
      many('voluntary', 'company.ofThemWhoMayLeave', 'telephones'), ifAny(one('department', 'company.ofTheDepartment', 'departments')),
      whole('tries', 'company.membersTried'),
      choice('ringing', 'company.aQueueRings', ringings),
      { at: 'skills', label: 'company.skillOfEachTheMost', kind: 'skills', when: { at: 'ringing', is: 'skill' } },
      seconds('ringTime', 'company.forSeconds'), seconds('promise', 'company.promiseSeconds'),
      seconds('wrapUp', 'company.timeAfterACallSeconds'), whole('pauseAfter', 'company.pausedAfterCallsNotTaken'),
      seconds('tellEvery', 'company.tellsThePlaceEverySeconds'),
      whole('mostWaiting', 'company.mostWhoWait'), text('callBackDigit', 'company.keyToBeCalledBack'), seconds('overflow.after', 'company.afterSoManySeconds'),
      destination('overflow.to', 'company.theyGoTo'),
      ifAny(one('hours', 'common.open', 'hours')), long('closedText', 'company.whatCallersHearWhenIt'),
    ],
  },
  hours: {
    title: 'company.openingHours', one: 'company.oneSetOfOpeningHours',
    blank: company => ({ id: newId('h'), name: '', zone: company.settings.zone, week: [], holidays: [] }),
    fields: [text('name', 'common.name'), text('zone', 'company.timeZone'), { at: 'week', label: 'company.week', kind: 'week' },
      { at: 'holidays', label: 'company.closedOn',
        kind: 'holidays' }],
  },
  slots: {
    title: 'common.parkSlots', one: 'company.oneParkSlot',
    blank: company => ({
      id: newId('slot:n'), name: nextName(company.slots),
      number: freeNumber(company.settings, takenNumbers(company), Object.values(company.slots).at(-1)?.number),
    }),
    fields: [text('name', 'common.name'), text('number', 'common.number')],
  },
  zones: {
    title: 'company.loudspeakerZones', one: 'company.oneLoudspeakerZone',
    blank: company => ({ id: newId('z'), name: '', number: '', site: first(company.sites), speakers: [], position: next(company.zones) }),
    fields: [
      text('name', 'common.name'), text('number', 'common.number'), one('site', 'company.site', 'sites'), texts('speakers', 'common.loudspeakers'),
      whole('position',
        'company.placeAmongTheOthers'),
    ],
  },
  announcements: {
    title: 'company.announcements', one: 'company.oneAnnouncement',
    blank: company => ({ id: newId('a'), occasion: '', text: '', rank: 'ordinary', twice: false, position: next(company.announcements) }),
    fields: [
      text('occasion', 'company.occasion'), long('text', 'company.text'), choice('rank', 'company.rank', pageRanks), check('twice', 'company.saidTwice'),
      whole('position',
        'company.placeAmongTheOthers'),
    ],
  },
  duties: {
    title: 'company.duties', one: 'company.oneDuty',
    blank: company => ({ id: newId('duty'), name: '', handles: [], instead: company.settings.operators, position: next(company.duties) }),
    fields: [
      text('name', 'common.name'), texts('handles', 'company.whatItIsAskedFor'), destination('instead', 'company.whenNobodyIsOnDuty'), whole('position',
        'company.placeAmongTheOthers'),
    ],
  },
  accountCodes: {
    title: 'company.accountCodes', one: 'company.oneAccountCode',
    blank: () => ({ id: newId('code'), code: '', name: '' }),
    fields: [text('code', 'company.code'), text('name', 'company.whatFor')],
  },
  trunks: {
    title: 'company.trunks', one: 'company.oneTrunk',
    blank: () => ({ id: newId('trunk'), name: '', channels: 2, kept: 0 }),
    fields: [text('name', 'common.name'), whole('channels', 'company.channels'), whole('kept', 'company.ofThemKeptForEmergencies')],
  },
  shortNumbers: {
    title: 'company.shortNumbers', one: 'company.oneShortNumber',
    blank: () => ({ number: '', name: '', emergency: false }),
    fields: [text('number', 'common.number'), text('name', 'common.name'), check('emergency', 'company.emergencyAlwaysGetsThrough')],
  },
}

export const settingsFields: readonly FormField[] = [
  text('name', 'company.nameOfTheHouse'), { at: 'country', label: 'company.country', kind: 'country' }, text('language', 'company.languageOfTheHouse'),
  text('zone', 'company.timeZoneOfTheHouse'), text('firstExtension', 'company.extensionsBeginAt'), whole('longestInside', 'company.longestNumberInsideDigits'),
  one('operators', 'company.theOperators', 'groups'), seconds('transferRecall', 'company.aTransferComesBackAfter'),
  seconds('noAnswer', 'company.anUnansweredCallGoesOn'), seconds('queueRecall', 'company.aCallInAQueue'),
  seconds('parkRecall', 'company.aParkedCallComesBack'), seconds('holdRecall', 'company.aCallOnHoldRings'),
  seconds('holdLimit', 'company.onHoldWithAnOperator'),
  seconds('absence', 'company.callersOfAnOperatorWho'),
  seconds('overflow', 'company.aCallWaitsForThe'), seconds('outsideWatch', 'company.twoOutsideStayInView'),
  seconds('outsideLongest', 'company.twoOutsideArePartedAfter'), seconds('longestMessage', 'company.aVoiceMessageAtMost'),
  seconds('ringCycle', 'company.oneRingSeconds'), seconds('failedTone', 'company.theToneAfterAFailed'),
  tone('ringing', 'company.toneWhileItRings'), tone('busy', 'company.toneWhenSomebodyTalks'), tone('congestion', 'company.toneWhenNoLineIs'),
  tone('unobtainable', 'company.toneWhenNobodyCanBe'), whole('conferenceSize', 'company.mostInAConference'),
  seconds('pageSilence', 'company.aSilentPageClosesAfter'), seconds('pageWait', 'company.aPageWaitsForLoudspeakers'),
  choice('pageOverDoNotDisturb', 'company.doNotDisturbLetsPages', pageRanks),
  check('listeningTone', 'company.listeningTone'), ifAny(destination('pageDefault', 'company.pagesGoByOneKey')),
  choice('serviceLevel', 'company.theServiceLevelIsCounted', levelKinds), seconds('shortAbandon', 'company.whoGivesUpWithinSo'),
  whole('callBackTries', 'company.callersAreCalledBackAt'), seconds('callBackAgain', 'company.andAgainAfterSeconds'),
  seconds('callBackWithin', 'company.aPromisedCallBackIs'),
  choices('callsTo', 'company.numbersThatMayBeCalled', numberClasses), choices('callBacksTo', 'company.numbersThatCallersMayBe', numberClasses),
  check('listedCodesOnly', 'company.onlyAccountCodesOfThe'), texts('pauseReasons', 'company.whyMembersOfAQueue'),
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
  if (value === null || value === undefined || value === '' || (Array.isArray(value) && value.length === 0)) return t('company.nothing')
  const named = (part: Part, id: unknown) => titleOf(company, part, String(id))
  switch (field.kind) {
    case 'seconds': return `${Number(value) / 1_000} s`
    case 'check': return value ? t('company.yes') : t('company.no')
    case 'one': return named(field.of!, value)
    case 'many': return (value as string[]).map(id => named(field.of!, id)).join(', ')
    case 'choice': return nameOfChoice(String(value))
    case 'choices': return (value as string[]).map(nameOfChoice).join(', ')
    case 'texts': return (value as string[]).join(', ')
    case 'week': {
      const week = value as OpeningHours['week']
      const days = weekdays.map((name, index) => `${say(name).slice(0, 3)} ${timesAsText(week.filter(({ day }) => day === index + 1)) || t('company.closed')}`)
      return days.join(', ')
    }
    case 'holidays': return holidaysAsText(value as OpeningHours['holidays']).replaceAll('\n', ', ')
    case 'greetings': return greetingsAsText(value as Greeting[]).replaceAll('\n', ', ')
    case 'skills': return Object.entries(value as Record<string, number>).map(([id, skill]) => `${named('telephones', id)} ${skill}`).join(', ')
      || t('company.nothing')
    case 'destination': {
      const box = ownerOfMailbox(String(value))
      if (box !== null) return t('company.voicemailOf', { name: (lookUp(company.lines, box) ?? lookUp(company.groups, box))?.name ?? named('telephones', box) })
      const device = (['groups', 'telephones', 'zones'] as const).find(part => lookUp(company[part] as Record<string, object>, String(value)))
      return device ? named(device, value) : formatNumber(String(value))
    }
    default: return typeof value === 'object' ? JSON.stringify(value) : /^\+\d+$/.test(String(value)) ? formatNumber(String(value)) : String(value)
  }
}

/** What the choices are called. */
const choiceWords: Record<string, PlainKey> = {
  queue: 'company.allWaitInIt', longestFree: 'company.toWhoHasBeenFree', all: 'company.toAllAtOnce', none: 'company.nobodyTheyTakeCallersThemselves',
  order: 'company.inOrder',
  turn: 'company.inTurn', skill: 'company.bySkill',
  inland: 'company.ofTheCountry', abroad: 'company.abroad', premium: 'company.atAPremiumOrTo', satellite: 'company.bySatellite',
}

export function nameOfChoice(choice: string): string {
  const key = choiceWords[choice]
  return key ? t(key) : choice
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
    case 'trunks': return t('company.countChannels', { count: Number(thing?.channels) })
    default: return ''
  }
}
