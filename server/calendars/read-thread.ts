import { parentPort } from 'node:worker_threads'
import { phrase } from '../../words/phrase'
import { readCalendar } from '../../core/calendar/occurrences'
import { Unreadable } from '../../core/schema/faults'
import type { ReadingJob, ReadingResult } from './reader'

/** The thread's whole program: what somebody else wrote is read here, where it can be stopped, whatever it makes the reading do. */
parentPort?.on('message', ({ id, text, titles, window, zone }: ReadingJob) => {
  parentPort?.postMessage({ id, ...read() })

  function read(): Omit<ReadingResult, 'id'> {
    try {
      return readCalendar(text, { titles, window, zone })
    }
    catch (error) {
      return { fault: error instanceof Unreadable ? error.what : phrase('calendar.unreadable') }
    }
  }
})
