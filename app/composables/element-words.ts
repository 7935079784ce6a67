import dayjs from 'dayjs'
import updateLocale from 'dayjs/plugin/updateLocale'
import { localeContextKey } from 'element-plus/es/hooks/use-locale/index.mjs'
import type { Language } from 'element-plus/es/locale'
import { type App, shallowRef } from 'vue'
import { t } from './language'

const aSunday = Date.UTC(2024, 0, 7)
const dayLong = 24 * 60 * 60_000
const weekdays = ['sun', 'mon', 'tue', 'wed', 'thu', 'fri', 'sat']
const months = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec']

/** What the parts of forms say by themselves comes from the catalogue, too; calendars begin the week on Monday, as the weeks of reports do. */
export function letElementsSpeak(app: App): void {
  dayjs.extend(updateLocale)
  dayjs.updateLocale('en', { weekStart: 1 })
  app.provide(localeContextKey, shallowRef(elementWords()))
}

function elementWords(): Language {
  const named = (names: readonly string[], at: (index: number) => number, options: Intl.DateTimeFormatOptions) => {
    const format = new Intl.DateTimeFormat('en-GB', { ...options, timeZone: 'UTC' })
    return Object.fromEntries(names.map((name, index) => [name, format.format(at(index))]))
  }
  const day = (index: number) => aSunday + index * dayLong
  const month = (index: number) => Date.UTC(2024, index, 15)
  return {
    name: 'en',
    el: {
      datepicker: {
        now: t('elements.now'), today: t('elements.today'), cancel: t('elements.leave'), clear: t('elements.clear'), confirm: t('elements.take'),
        dateTablePrompt: t('elements.chooseDay'), monthTablePrompt: t('elements.chooseMonth'), yearTablePrompt: t('elements.chooseYear'),
        selectedDate: t('elements.day'), selectDate: t('elements.day'), selectTime: t('elements.time'),
        startDate: t('elements.firstDay'), startTime: t('elements.firstTime'), endDate: t('elements.lastDay'), endTime: t('elements.lastTime'),
        prevYear: t('elements.yearBefore'), nextYear: t('elements.yearAfter'), prevMonth: t('elements.monthBefore'), nextMonth: t('elements.monthAfter'),
        year: '',
        ...named(months.map((_, index) => `month${index + 1}`), month, { month: 'long' }),
        months: named(months, month, { month: 'short' }),
        weeks: named(weekdays, day, { weekday: 'short' }),
        weeksFull: named(weekdays, day, { weekday: 'long' }),
      },
      inputNumber: { decrease: t('elements.lower'), increase: t('elements.higher') },
      select: { loading: t('elements.loading'), noMatch: t('elements.nothingMatches'), noData: t('elements.nothingThere'), placeholder: t('elements.choose') },
      dropdown: { toggleDropdown: t('elements.openMenu') },
      dialog: { close: t('elements.closeSheet') },
      tag: { close: t('elements.takeAway') },
      slider: {
        // Element Plus fills these blanks itself.
        defaultLabel: t('elements.between', { min: '{min}', max: '{max}' }),
        defaultRangeStartLabel: t('elements.lower'), defaultRangeEndLabel: t('elements.higher'),
      },
    },
  }
}
