import { readDialled } from '../numbers/dialled'
import { ownerOfMailbox } from '../calls/names'
import { isZone } from '../calendar/zones'
import { type Company, isTakenForItself, type OpeningHours } from './company'

const e164 = /^\+\d{6,15}$/
const short = /^\d{1,7}$/
/** Milliseconds that a queue rings a member at least, and that lie between two announcements to one caller. */
const shortestRing = 3_000
const mostOften = 10_000

/**
 * What is wrong with a configuration, one sentence for each fault: something refers to what is not there, or two things have one number.
 * A company without telephones is none yet, and is right as it is.
 */
export function faultsOf(company: Company): string[] {
  const { sites, departments, people, telephones, groups, lines, trunks, slots, shortNumbers, settings } = company
  const faults: string[] = []
  const names = new Map<string, string>()
  const number = (text: string, whose: string, form: RegExp) => {
    const remedy = form === e164 ? 'write it with its area code' : 'it has 1 to 7 digits'
    if (!form.test(text)) faults.push(`${whose} has the number "${text}", which is none: ${remedy}.`)
    const other = names.get(text)
    if (other) faults.push(`${whose} and ${other} have the same number ${text}.`)
    names.set(text, whose)
  }
  const id = (text: string, whose: string) => {
    if (!isTakenForItself(text)) faults.push(`${whose} has the id ${text}: it begins with a letter, and is no word of the program's own.`)
  }
  for (const [what, all] of Object.entries({
    'site': sites, 'department': departments, 'group': groups, 'line': lines, 'loudspeaker zone': company.zones, 'duty': company.duties,
    'set of opening hours': company.hours, 'park slot': slots, 'trunk': trunks,
  })) if (Object.values<{ name: string }>(all).some(({ name }) => name.trim() === '')) faults.push(`A ${what} has no name.`)
  if (Object.values(people).some(({ first, last }) => `${first}${last}`.trim() === '')) faults.push('Somebody has no name.')
  for (const department of Object.values(departments))
    if (!Object.hasOwn(sites, department.site)) faults.push(`${department.name} is at ${department.site}, which is no site.`)
  for (const { id: key, first, last, department, deputies } of Object.values(people)) {
    id(key, `${first} ${last}`)
    if (deputies.includes(key)) faults.push(`${first} ${last} stands in for themselves: name somebody else, or nobody.`)
    if (!Object.hasOwn(departments, department)) faults.push(`${first} ${last} is in ${department}, which is no department.`)
    const unknown = deputies.find(deputy => !Object.hasOwn(people, deputy))
    if (unknown !== undefined) faults.push(`${unknown} stands in for ${first} ${last}, and is not there.`)
  }
  for (const all of [sites, departments, lines, trunks, company.hours, company.accountCodes])
    for (const thing of Object.values<{ id: string, name: string }>(all)) id(thing.id, thing.name || thing.id)
  for (const { number: emergency } of Object.values(shortNumbers)) number(emergency, `Short number ${emergency}`, short)
  for (const telephone of Object.values(telephones)) {
    number(telephone.number, telephone.name, short)
    if (telephone.direct) number(telephone.direct, telephone.name, e164)
    if (telephone.person !== null && !Object.hasOwn(people, telephone.person))
      faults.push(`${telephone.name} belongs to ${telephone.person}, who is not there.`)
    id(telephone.id, telephone.name)
    if (telephone.capacity < 1) faults.push(`${telephone.name} must be able to have one call at least.`)
  }
  const reachable = (to: string) => Object.hasOwn(telephones, to) || Object.hasOwn(groups, to) || names.has(to) || readDialled(to, settings).kind === 'outside'
    || Object.hasOwn(telephones, ownerOfMailbox(to) ?? '') || Object.hasOwn(lines, ownerOfMailbox(to) ?? '')
  /** Nobody is connected with an emergency service by a rule. */
  const isEmergency = (to: string) => {
    const dialled = readDialled(to, settings)
    return dialled.kind === 'inside' && Object.values(shortNumbers).some(({ number, emergency }) => emergency && number === dialled.digits)
  }
  const ofRule = (whose: string, to: string) => {
    if (!reachable(to)) faults.push(`${whose} go to ${to}, which is not there.`)
    else if (isEmergency(to)) faults.push(`${whose} go to ${to}, an emergency number: no rule leads there.`)
  }
  for (const slot of Object.values(slots)) {
    number(slot.number, `Park slot ${slot.name}`, short)
    id(slot.id, `Park slot ${slot.name}`)
  }
  for (const group of Object.values(groups)) {
    number(group.number, group.name, short)
    id(group.id, group.name)
  }
  for (const line of Object.values(lines)) number(line.number, line.name, e164)
  for (const zone of Object.values(company.zones)) {
    number(zone.number, zone.name, short)
    id(zone.id, zone.name)
    if (!Object.hasOwn(sites, zone.site)) faults.push(`${zone.name} is at ${zone.site}, which is no site.`)
  }
  const { pageDefault } = settings
  if (pageDefault !== null && !Object.hasOwn(company.zones, pageDefault) && !Object.hasOwn(groups, pageDefault))
    faults.push(`Pages go to ${pageDefault} by one key, which is neither a zone nor a group.`)
  for (const group of Object.values(groups)) {
    const unknown = group.members.find(member => !Object.hasOwn(telephones, member))
    if (unknown !== undefined) faults.push(`${group.name} has a member, ${unknown}, that is no telephone of the company.`)
    if (group.ringing !== 'none' && group.distribution === 'queue' && group.ringTime < shortestRing)
      faults.push(`${group.name} rings its members for ${group.ringTime / 1_000} seconds: at least ${shortestRing / 1_000} are needed to answer.`)
    if (group.ringing !== 'none' && group.id === settings.operators)
      faults.push('The operators\' own queue rings on their consoles: it can\'t ring them otherwise.')
    if (group.distribution !== 'queue' && group.id === settings.operators)
      faults.push('The operators\' own group is a queue: callers wait in it for whoever of them is free. Choose that all its calls wait in one queue.')
    if (group.tellEvery > 0 && group.tellEvery < mostOften)
      faults.push(`${group.name} tells callers their place every ${group.tellEvery / 1_000} seconds: at least ${mostOften / 1_000} must lie between.`)
    if (group.department !== null && !Object.hasOwn(departments, group.department))
      faults.push(`${group.name} is made of the people of ${group.department}, which is no department.`)
    ofRule(`Calls that wait too long in ${group.name}`, group.overflow.to)
  }
  for (const line of Object.values(lines)) {
    if (!Object.hasOwn(groups, line.target)) faults.push(`Calls on ${line.name} go to ${line.target}, which is no group.`)
    for (const to of [line.night, line.overflow.to]) ofRule(`Calls on ${line.name} that nobody takes`, to)
  }
  for (const duty of Object.values(company.duties)) {
    id(duty.id, duty.name)
    if (!reachable(duty.instead)) faults.push(`When nobody is on duty, ${duty.name} is reached at ${duty.instead}, which is not there.`)
  }
  const codes = new Map<string, string>()
  for (const { code, name } of Object.values(company.accountCodes)) {
    if (code.trim() !== code || code === '') faults.push(`${name || 'An account code'} has the code "${code}", which is none.`)
    const other = codes.get(code.toLowerCase())
    if (other !== undefined) faults.push(`${name} and ${other} have the same account code ${code}.`)
    codes.set(code.toLowerCase(), name)
  }
  if (!isZone(settings.zone)) faults.push(`The house has the time zone ${settings.zone}, which is none.`)
  for (const hours of Object.values(company.hours)) faults.push(...faultsOfHours(hours))
  for (const { name, hours } of [...Object.values(groups), ...Object.values(lines)])
    if (hours !== null && !Object.hasOwn(company.hours, hours)) faults.push(`${name} is open at ${hours}, which are no opening hours.`)
  for (const trunk of Object.values(trunks)) if (trunk.kept > trunk.channels) faults.push(`Trunk ${trunk.name} keeps more channels than it has.`)
  if (Object.keys(telephones).length > 0 && !Object.hasOwn(groups, settings.operators))
    faults.push(`The group of the operators, ${settings.operators}, is not there.`)
  return faults
}

function faultsOfHours({ name, zone, week, holidays }: OpeningHours): string[] {
  const spans = [...week].sort((a, b) => a.day - b.day || a.opens - b.opens)
  const overlaps = spans.some((span, index) => spans[index - 1]?.day === span.day && spans[index - 1]!.closes > span.opens)
  return [
    ...(isZone(zone) ? [] : [`${name} is in the time zone ${zone}, which is none.`]),
    ...(spans.every(({ opens, closes }) => opens < closes) ? [] : [`${name} closes before it opens.`]),
    ...(overlaps ? [`${name} opens twice at the same time.`] : []),
    ...holidays.filter(({ date }) => !isDate(date)).map(({ date }) => `${name} has a holiday on ${date}, which is no date.`),
  ]
}

function isDate(text: string): boolean {
  return /^\d{4}-\d{2}-\d{2}$/.test(text) && !Number.isNaN(Date.parse(text)) && new Date(text).toISOString().startsWith(text)
}
