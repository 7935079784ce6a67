import '../core/schema/wording'
import { array, type InferType, object, string } from 'yup'

/** What a customer system of the house says of a number. It is somebody else's text: shown as text, and never as anything else. */

const mostLines = 12

/** As the other system answers: an order, an open question, anything that is worth a line before one answers. */
const line = object({ label: string().max(200).required(), text: string().max(1_000).defined() })
const customer = object({
  name: string().max(400).required(),
  reference: string().max(200).default(''),
  lines: array(line.required()).max(200).default([]),
  /** Where all of it stands, to be opened beside. */
  link: string().max(2_000).nullable().default(null),
})
/** `customer`: null for a number that nobody has there. */
export const customerSystemAnswer = object({ customer: customer.nullable().defined() }).required()

export const customerQuery = object({ number: string().max(40).required().label('number') }).noUnknown().strict(false)

/** `source`: what the system is called, empty where there is none; `problem`: why nothing is known, in a sentence. */
export const customerKnown = object({
  source: string().defined(),
  problem: string().nullable().defined(),
  customer: object({
    name: string().defined(),
    reference: string().defined(),
    lines: array(object({ label: string().defined(), text: string().defined() })).max(mostLines).required(),
    link: string().nullable().defined(),
  }).nullable().defined(),
})
export type CustomerKnown = InferType<typeof customerKnown>
