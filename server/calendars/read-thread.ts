import { parentPort } from 'node:worker_threads'
import { NoCalendar, occurrencesOf, reduceCalendar } from '../../core/calendar/occurrences'
import type { ReadingJob, ReadingResult } from './reader'

/** The thread's whole program: what somebody else wrote is read here, where it can be stopped, whatever it makes the reading do. */
parentPort?.on('message', ({ id, text, titles, window, zone }: ReadingJob) => {
  parentPort?.postMessage({ id, ...read() })

  function read(): Omit<ReadingResult, 'id'> {
    try {
      const { content, problems } = reduceCalendar(text, titles)
      const { occurrences, problems: also } = occurrencesOf(content, window, zone)
      return { content, occurrences, problems: [...problems, ...also] }
    }
    catch (error) {
      if (error instanceof NoCalendar) return { sentence: error.message }
      return { sentence: 'This calendar can\'t be read.' }
    }
  }
})
