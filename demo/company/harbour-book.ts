import { chanceFrom } from './chance'
import { firstNames, lastNames } from './names'

/** The book of the harbour association: agents, pilots and offices along the coast, kept by others and read by Merrowby Ferries. */

const offices = [
  ['Pilots of the Sound', ['pilot', 'pilot', 'pilot', 'watch']], ['Stennick Harbour Office', ['harbour master', 'berths', 'dues']],
  ['Hallow Customs House', ['officer', 'officer', 'veterinary']], ['Tern Point Coastguard', ['watch', 'watch']],
  ['Corrie Towage', ['dispatch', 'captain', 'captain']], ['Saltmark Ship Agents', ['agent', 'agent', 'agent', 'accounts']],
  ['Fairlead Provisions', ['orders', 'driver']], ['Merrow Bay Weather Office', ['forecaster']],
] as const

/** Cards by their names; the same ones every time. */
export function harbourCards(): Map<string, string> {
  const chance = chanceFrom(59)
  const cards = new Map<string, string>()
  for (const [index, [office, people]] of offices.entries()) {
    cards.set(`office-${index}.vcf`, card([`UID:harbour-office-${index}`, `FN:${office}`, `ORG:${office}`, 'KIND:org', `TEL;TYPE=work:${number(index * 10)}`]))
    for (const [place, role] of people.entries()) {
      const [first, last] = [chance.pick(firstNames), chance.pick(lastNames)]
      const at = index * 10 + place + 1
      cards.set(`person-${at}.vcf`, card([
        `UID:harbour-person-${at}`, `FN:${first} ${last}`, `N:${last};${first};;;`, `ORG:${office}`, `TITLE:${role}`, `TEL;TYPE=work:${number(at)}`,
        'CATEGORIES:Harbour', ...place === 0 ? [`NOTE:${role === 'watch' ? 'Answers at any hour.' : 'Office hours only.'}`] : [],
      ]))
    }
  }
  return cards
}

/** Of a range set aside for fiction. */
const number = (index: number) => `+44 117 496 0${String(100 + index).padStart(3, '0')}`

function card(lines: readonly string[]): string {
  return ['BEGIN:VCARD', 'VERSION:4.0', ...lines, 'END:VCARD', ''].join('\r\n')
}
