import dayjs from 'dayjs'
import updateLocale from 'dayjs/plugin/updateLocale'

/** Calendars begin the week on Monday, as the weeks of reports do. */
export default defineNuxtPlugin(() => {
  dayjs.extend(updateLocale)
  dayjs.updateLocale('en', { weekStart: 1 })
})
