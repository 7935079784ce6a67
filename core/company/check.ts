import { phrase, type Phrase, type Spoken } from '../../words/phrase'
import { readDialled } from '../numbers/dialled'
import { mailboxOwner } from '../calls/names'
import { isZone } from '../calendar/zones'
import { type Company, isTakenForItself, type OpeningHours } from './company'

const e164 = /^\+\d{6,15}$/
const short = /^\d{1,7}$/
/** Milliseconds that a queue rings a member at least, and that lie between two announcements to one caller. */
const shortestRing = 3_000
const mostOften = 10_000

/**
 * What is wrong with a configuration, one phrase for each fault: something refers to what is not there, or two things have one number.
 * A company without telephones is none yet, and is right as it is.
 */
export function faultsOf(company: Company): Phrase[] {
  const { sites, departments, people, telephones, groups, lines, trunks, slots, shortNumbers, settings } = company
  const faults: Phrase[] = []
  const names = new Map<string, Spoken>()
  const number = (text: string, whose: Spoken, form: RegExp) => {
    if (!form.test(text)) faults.push(phrase(form === e164 ? 'faults.noNumberWithArea' : 'faults.noExtension', { whose, number: text }))
    const other = names.get(text)
    if (other !== undefined) faults.push(phrase('faults.sameNumber', { whose, other, number: text }))
    names.set(text, whose)
  }
  const id = (text: string, whose: Spoken) => {
    if (!isTakenForItself(text)) faults.push(phrase('faults.badId', { whose, id: text }))
  }
  for (const [key, all] of [
    ['faults.aSiteHasNoName', sites], ['faults.aDepartmentHasNoName', departments], ['faults.aGroupHasNoName', groups], ['faults.aLineHasNoName', lines],
    ['faults.aZoneHasNoName', company.zones], ['faults.aDutyHasNoName', company.duties], ['faults.hoursHaveNoName', company.hours],
    ['faults.aSlotHasNoName', slots], ['faults.aTrunkHasNoName', trunks],
  ] as const) if (Object.values<{ name: string }>(all).some(({ name }) => name.trim() === '')) faults.push(phrase(key))
  if (Object.values(people).some(({ first, last }) => `${first}${last}`.trim() === '')) faults.push(phrase('faults.somebodyHasNoName'))
  for (const department of Object.values(departments))
    if (!Object.hasOwn(sites, department.site)) faults.push(phrase('faults.atNoSite', { name: department.name, site: department.site }))
  for (const { id: key, first, last, department, deputies } of Object.values(people)) {
    const name = `${first} ${last}`
    id(key, name)
    if (deputies.includes(key)) faults.push(phrase('faults.ownDeputy', { name }))
    if (!Object.hasOwn(departments, department)) faults.push(phrase('faults.inNoDepartment', { name, department }))
    const unknown = deputies.find(deputy => !Object.hasOwn(people, deputy))
    if (unknown !== undefined) faults.push(phrase('faults.deputyNotThere', { deputy: unknown, name }))
  }
  for (const all of [sites, departments, lines, trunks, company.hours, company.accountCodes])
    for (const thing of Object.values<{ id: string, name: string }>(all)) id(thing.id, thing.name || thing.id)
  for (const { number: emergency } of Object.values(shortNumbers)) number(emergency, phrase('faults.shortNumber', { number: emergency }), short)
  for (const telephone of Object.values(telephones)) {
    number(telephone.number, telephone.name, short)
    if (telephone.direct) number(telephone.direct, telephone.name, e164)
    if (telephone.person !== null && !Object.hasOwn(people, telephone.person))
      faults.push(phrase('faults.belongsToNobody', { name: telephone.name, person: telephone.person }))
    id(telephone.id, telephone.name)
    if (telephone.capacity < 1) faults.push(phrase('faults.noCapacity', { name: telephone.name }))
  }
  const reachable = (to: string) => Object.hasOwn(telephones, to) || Object.hasOwn(groups, to) || names.has(to) || readDialled(to, settings).kind === 'outside'
    || mailboxOwner(company, to) !== undefined
  /** Nobody is connected with an emergency service by a rule. */
  const isEmergency = (to: string) => {
    const dialled = readDialled(to, settings)
    return dialled.kind === 'inside' && Object.values(shortNumbers).some(({ number, emergency }) => emergency && number === dialled.digits)
  }
  const ofRule = (calls: Phrase, to: string) => {
    if (!reachable(to)) faults.push(phrase('faults.leadsNowhere', { calls, to }))
    else if (isEmergency(to)) faults.push(phrase('faults.leadsToEmergency', { calls, to }))
  }
  for (const slot of Object.values(slots)) {
    const whose = phrase('faults.parkSlot', { name: slot.name })
    number(slot.number, whose, short)
    id(slot.id, whose)
  }
  for (const group of Object.values(groups)) {
    number(group.number, group.name, short)
    id(group.id, group.name)
  }
  for (const line of Object.values(lines)) number(line.number, line.name, e164)
  for (const zone of Object.values(company.zones)) {
    number(zone.number, zone.name, short)
    id(zone.id, zone.name)
    if (!Object.hasOwn(sites, zone.site)) faults.push(phrase('faults.atNoSite', { name: zone.name, site: zone.site }))
  }
  const { pageDefault } = settings
  if (pageDefault !== null && !Object.hasOwn(company.zones, pageDefault) && !Object.hasOwn(groups, pageDefault))
    faults.push(phrase('faults.pagesGoNowhere', { to: pageDefault }))
  for (const group of Object.values(groups)) {
    const unknown = group.members.find(member => !Object.hasOwn(telephones, member))
    if (unknown !== undefined) faults.push(phrase('faults.memberIsNoTelephone', { name: group.name, member: unknown }))
    if (group.ringing !== 'none' && group.distribution === 'queue' && group.ringTime < shortestRing)
      faults.push(phrase('faults.ringsTooShort', { name: group.name, seconds: group.ringTime / 1_000, least: shortestRing / 1_000 }))
    if (group.ringing !== 'none' && group.id === settings.operators)
      faults.push(phrase('faults.operatorsRingOnConsoles'))
    if (group.distribution !== 'queue' && group.id === settings.operators)
      faults.push(phrase('faults.operatorsAreAQueue'))
    if (group.tellEvery > 0 && group.tellEvery < mostOften)
      faults.push(phrase('faults.tellsTooOften', { name: group.name, seconds: group.tellEvery / 1_000, least: mostOften / 1_000 }))
    if (group.department !== null && !Object.hasOwn(departments, group.department))
      faults.push(phrase('faults.madeOfNoDepartment', { name: group.name, department: group.department }))
    ofRule(phrase('faults.callsThatWait', { name: group.name }), group.overflow.to)
  }
  for (const line of Object.values(lines)) {
    if (!Object.hasOwn(groups, line.target)) faults.push(phrase('faults.lineToNoGroup', { name: line.name, to: line.target }))
    for (const to of [line.night, line.overflow.to]) ofRule(phrase('faults.callsNobodyTakes', { name: line.name }), to)
  }
  for (const duty of Object.values(company.duties)) {
    id(duty.id, duty.name)
    if (!reachable(duty.instead)) faults.push(phrase('faults.dutyNowhere', { name: duty.name, to: duty.instead }))
  }
  const codes = new Map<string, string>()
  for (const { code, name } of Object.values(company.accountCodes)) {
    if (code.trim() !== code || code === '') faults.push(phrase('faults.noCode', { name: name || phrase('faults.anAccountCode'), code }))
    const other = codes.get(code.toLowerCase())
    if (other !== undefined) faults.push(phrase('faults.sameCode', { name, other, code }))
    codes.set(code.toLowerCase(), name)
  }
  if (!isZone(settings.zone)) faults.push(phrase('faults.houseInNoZone', { zone: settings.zone }))
  for (const hours of Object.values(company.hours)) faults.push(...faultsOfHours(hours))
  for (const { name, hours } of [...Object.values(groups), ...Object.values(lines)])
    if (hours !== null && !Object.hasOwn(company.hours, hours)) faults.push(phrase('faults.openAtNoHours', { name, hours }))
  for (const trunk of Object.values(trunks)) if (trunk.kept > trunk.channels) faults.push(phrase('faults.trunkKeepsTooMany', { name: trunk.name }))
  if (Object.keys(telephones).length > 0 && !Object.hasOwn(groups, settings.operators))
    faults.push(phrase('faults.noOperators', { group: settings.operators }))
  return faults
}

function faultsOfHours({ name, zone, week, holidays }: OpeningHours): Phrase[] {
  const spans = [...week].sort((a, b) => a.day - b.day || a.opens - b.opens)
  const overlaps = spans.some((span, index) => spans[index - 1]?.day === span.day && spans[index - 1]!.closes > span.opens)
  return [
    ...(isZone(zone) ? [] : [phrase('faults.hoursInNoZone', { name, zone })]),
    ...(spans.every(({ opens, closes }) => opens < closes) ? [] : [phrase('faults.closesBeforeItOpens', { name })]),
    ...(overlaps ? [phrase('faults.opensTwice', { name })] : []),
    ...holidays.filter(({ date }) => !isDate(date)).map(({ date }) => phrase('faults.holidayIsNoDate', { name, date })),
  ]
}

function isDate(text: string): boolean {
  return /^\d{4}-\d{2}-\d{2}$/.test(text) && !Number.isNaN(Date.parse(text)) && new Date(text).toISOString().startsWith(text)
}
