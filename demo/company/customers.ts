import type { Company } from '../../core/company/company'
import { regularsOf } from './contacts'

/** What the demo's customer system knows of whoever calls again and again: bookings, invoices, open questions. */

const open = [
  'Asks whether the trailer may be 18.5 m: nobody has answered yet', 'Waits for a new invoice since last week', 'Wants the return moved to the evening sailing',
  'Complaint about the gangway, not closed',
]

/** @param number E.164; null for a number that nobody has there */
export function customerWith(company: Company, number: string) {
  const regulars = regularsOf(company)
  const index = regulars.findIndex(regular => regular.number === number)
  const regular = regulars[index]
  // Not everybody who calls has ever booked.
  if (!regular || index % 4 === 3) return null
  return {
    name: regular.firm ?? regular.name,
    reference: `C-${4_100 + index}`,
    lines: [
      {
        label: `Booking MF-${70_200 + index * 7}`,
        text: index % 2 === 0 ? 'Merrowby Quay to Hallow, two lorries, Thursday' : 'Stennick to Hallow, eleven passengers, Saturday',
      },
      ...index % 3 === 0 ? [{ label: 'Open question', text: open[index % open.length]! }] : [],
      ...index % 5 === 0 ? [{ label: 'Invoice', text: `${180 + index} pounds, due in nine days` }] : [],
    ],
    link: `https://orders.merrowby.example/customers/C-${4_100 + index}`,
  }
}
