import type { StandingAnnouncement, Zone } from '../../core/company/company'
import { siteId } from './names'

/** The loudspeakers of Merrowby Ferries, and what is read out on them. */

interface Plan { id: string, name: string, site: string, speakers: string[] }

const firstNumber = 801
const decks = ['car deck', 'saloon', 'crew']
const deckOf = (vessel: string): Plan =>
  ({ id: vessel.toLowerCase(), name: `MV ${vessel}, all decks`, site: 'At sea', speakers: decks.map(deck => `${vessel} ${deck}`) })
const plans: Plan[] = [
  { id: 'hall', name: 'Terminal hall', site: 'Stennick Harbour', speakers: ['Hall', 'Check-in'] },
  { id: 'quay', name: 'Quay', site: 'Stennick Harbour', speakers: ['Quay north', 'Quay south'] },
  { id: 'yard', name: 'Freight yard', site: 'Stennick Harbour', speakers: ['Yard gate', 'Yard lanes'] },
  {
    id: 'stennick', name: 'All of Stennick Harbour', site: 'Stennick Harbour',
    speakers: ['Hall', 'Check-in', 'Quay north', 'Quay south', 'Yard gate', 'Yard lanes', 'Workshop'],
  },
  { id: 'pier', name: 'Hallow pier', site: 'Isle of Hallow', speakers: ['Pier head', 'Waiting room'] },
  { id: 'office', name: 'Head office', site: 'Merrowby Quay', speakers: ['Ground floor', 'First floor'] },
  ...['Curlew', 'Sandpiper', 'Dunlin'].map(deckOf),
]
export const zones: Zone[] = plans.map(({ id, site, ...zone }, position) =>
  ({ id: `zone:${id}`, number: String(firstNumber + position), position, site: siteId(site), ...zone }))
export const pageDefault = 'zone:hall'

const texts: Omit<StandingAnnouncement, 'id' | 'position'>[] = [
  {
    occasion: 'Sailings', rank: 'ordinary', twice: true,
    text: 'Good morning. Boarding for the next sailing to Hallow begins in ten minutes. Please have your tickets ready.',
  },
  {
    occasion: 'Sailings', rank: 'urgent', twice: true,
    text: 'We are sorry: the next sailing to Hallow is cancelled because of the wind. Please come to the check-in desks; we will find you another crossing.',
  },
  {
    occasion: 'Sailings', rank: 'ordinary', twice: true,
    text: 'The next sailing is late by about twenty minutes. We thank you for your patience.',
  },
  {
    occasion: 'Vehicles', rank: 'ordinary', twice: false,
    text: 'Drivers waiting in lanes one to four: please go to your vehicles now.',
  },
  {
    occasion: 'Vehicles', rank: 'ordinary', twice: false,
    text: 'A car is in the way at the gate of the freight yard. Would its driver please move it at once.',
  },
  {
    occasion: 'Persons', rank: 'ordinary', twice: true,
    text: 'Would whoever has lost a child please come to the desk of passenger help.',
  },
  {
    occasion: 'Persons', rank: 'ordinary', twice: false,
    text: 'A visitor waits at the reception of the head office.',
  },
  {
    occasion: 'Safety', rank: 'safety', twice: true,
    text: 'Attention please. Leave the hall by the nearest door and go to the meeting point on the quay. Do not use the lift.',
  },
  {
    occasion: 'Safety', rank: 'safety', twice: false,
    text: 'The alarm was a drill. It is over now; thank you for taking part.',
  },
]
export const announcements: StandingAnnouncement[] = texts.map((one, position) => ({ id: `announcement${position + 1}`, position, ...one }))
