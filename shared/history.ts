import '../core/schema/wording'
import { type InferType, number, object } from 'yup'

/** Earlier weeks that are being brought into the journal, the newest first: how many there are to be, and how many are there. None: both 0. */
export const historyUnderWay = object({ weeks: number().integer().min(0).required(), done: number().integer().min(0).required() })
export type HistoryUnderWay = InferType<typeof historyUnderWay>
