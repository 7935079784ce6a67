import { useThrottleFn, useTimeoutFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import type { Cause, DeviceId, Page } from '~~/core/calls/model'
import { ownPage, pagesHeardAt, speakerWords, speakingAt } from '~~/core/calls/paging/pages'
import { timersOfPage } from '~~/core/calls/timers'
import type { PageRank, StandingAnnouncement } from '~~/core/company/company'
import type { PlainKey } from '~~/words/speaker'
import { t } from '~/composables/language'
import { useDesk } from './desk'
import { focusField } from './dialogs'
import { useDirectory } from './directory'
import { type Happening, useLive } from './live'

const reportStays = 20_000
/** Whoever writes goes on speaking: that is said no oftener than this, in milliseconds. */
const goesOn = 3_000

/** Why a microphone closed, where it was not by one's own hand. */
const whyClosed: Partial<Record<Cause, PlainKey>> = {
  noAnswer: 'paging.microphoneClosedByItselfNothing',
  preempted: 'paging.somebodySpeaksThereNowWhose',
  busy: 'paging.givenUpSomebodyElseWent',
  outOfService: 'paging.microphoneClosedThereIsNobody',
}
const missedWords: Partial<Record<Cause, PlainKey>> = { busy: 'paging.talking', doNotDisturb: 'paging.doNotDisturb', outOfService: 'common.noTelephone' }

/** Opens the microphone to where the company has named, and closes it from anywhere. */
export const pageKey = '&'

/** Speaking to telephones and loudspeakers: one's own microphone, what one hears of others, and who was reached. */
export const usePaging = defineStore('paging', () => {
  const live = useLive()
  const desk = useDesk()
  const directory = useDirectory()
  const page = computed(() => live.state && desk.device ? ownPage(live.state, desk.device) ?? null : null)
  const heard = computed(() => live.state && desk.device ? pagesHeardAt(live.state, desk.device) : [])
  const to = computed(() => page.value ? directory.nameOf(page.value.to) : '')
  /** Until the microphone closes by itself, in milliseconds. */
  const left = computed(() => page.value && live.state ? Math.max(0, timersOfPage(live.state, page.value)[0]!.at - desk.now) : 0)
  /** Who speaks where one's own page waits. */
  const speakers = computed(() => {
    const { state } = live
    const zone = page.value?.waits && state?.company.zones[page.value.to]
    return zone ? speakerWords(t, state!, speakingAt(state!, zone.speakers, page.value!.by)) : ''
  })
  const announcements = computed(() => {
    const all = Object.values(live.company?.announcements ?? {}).sort((a, b) => a.position - b.position)
    return [...new Set(all.map(({ occasion }) => occasion))].map(occasion => ({ occasion, texts: all.filter(one => one.occasion === occasion) }))
  })
  /** How often each text has been said on this page. */
  const said = ref<Record<string, number>>({})
  /** What became of the last page: in a line, and whom it did not reach. */
  const report = ref<{ text: string, missed: string[] } | null>(null)
  const forget = useTimeoutFn(() => {
    report.value = null
  }, reportStays, { immediate: false })

  function open(to: DeviceId, rank: PageRank): Promise<boolean> {
    return desk.ask({ service: 'openPage', to, rank })
  }

  /** One key: speaks to the zone or group that the company has named for it; closes the microphone when it is open. */
  function toggle(): void {
    const wanted = live.company?.settings.pageDefault
    if (page.value) void close()
    else if (wanted) void open(wanted, 'ordinary')
    else desk.say(t('paging.noZoneIsSetFor'))
  }

  async function close(): Promise<void> {
    if (page.value) await desk.ask({ service: 'closePage', page: page.value.id })
  }

  /** @returns true when it was heard */
  async function speak(text: string, rank?: PageRank): Promise<boolean> {
    return page.value !== null && await desk.ask({ service: 'speakOnPage', page: page.value.id, ...(text && { text }), ...(rank && { rank }) })
  }
  const goOn = useThrottleFn(() => page.value && !page.value.waits && void speak(''), goesOn)

  /** Reads out a text that is at hand; one that must be heard above others is spoken with its rank. */
  async function read({ id, text, rank }: StandingAnnouncement): Promise<void> {
    if (await speak(text, rank)) said.value = { ...said.value, [id]: (said.value[id] ?? 0) + 1 }
  }

  function reached({ reached, missed, waits, private: alone }: Page): { text: string, missed: string[] } {
    if (waits || alone) return { text: '', missed: [] }
    const names = missed.map(({ device, cause }) => `${directory.nameOf(device)} (${missedWords[cause] ? t(missedWords[cause]) : cause})`)
    return { text: names.length > 0
      ? t('paging.reachedSome', { some: reached.length, all: reached.length + missed.length })
      : t('paging.reachedAll', { count: reached.length }), missed: names }
  }

  /** What happened to one's own page; told before it is forgotten. */
  function follow(happenings: Happening[]): void {
    for (const { event } of happenings) {
      if (!('device' in event) || event.device !== desk.device) continue
      if (event.type === 'pageOpened') {
        const begins = last?.id !== event.page
        if (begins) said.value = {}
        report.value = null
        last = { ...event, id: event.page, by: event.device, heardAt: event.at, saidAt: event.at, text: '' }
        const name = directory.nameOf(event.to)
        if (begins) desk.say(event.waits ? t('paging.somebodySpeaksToYouAre', { name }) : t('paging.microphoneOpenToName', { name }), 'urgent')
      }
      else if (event.type === 'pageBegun' && last) {
        last = { ...last, waits: false, reached: event.reached }
        desk.say(t('paging.microphoneOpenToSpeakNow', { name: directory.nameOf(last.to) }), 'urgent')
      }
      else if (event.type === 'pageClosed' && last?.id === event.page) {
        const { text, missed } = reached(last)
        const words = [t(whyClosed[event.cause] ?? 'paging.microphoneClosed'), text].filter(Boolean).join('; ')
        desk.say(missed.length > 0 ? t('paging.wordsNotReachedMissed', { words, missed: missed.slice(0, 4).join(', ') }) : words, 'urgent')
        report.value = { text: words, missed }
        forget.start()
        last = null
        if (!page.value) focusField()
      }
    }
  }
  let last: Page | null = null
  live.onHappening(follow)

  watch(() => heard.value.map(({ id }) => id).join(' '), (_now, before) => {
    const [newest] = heard.value.filter(({ id }) => !before.split(' ').includes(id))
    if (newest) desk.say(t('paging.nameSpeaksToMore', {
      name: directory.nameOf(newest.by), more: newest.private ? t('paging.you') : directory.nameOf(newest.to),
    }), 'urgent')
  })
  watch(() => heard.value.map(({ text }) => text).join('\n'), (now) => {
    if (now) desk.say(heard.value.map(({ text }) => text).join('. '), 'urgent')
  })

  return { page, heard, to, left, speakers, announcements, said, report, open, toggle, close, speak, goOn, read }
})
