import { watchDebounced } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import type { DeviceId } from '~~/core/calls/model'
import { spell } from '~~/core/durations/durations'
import { boardsOf, isDeserted, type QueueBoard, usedOf } from '~~/core/queues/board'
import { share } from '~~/core/figures/words'
import type { Today } from '~~/shared/figures'
import { seesCallers } from '~~/shared/roles'
import { useDesk } from './desk'
import { useLive } from './live'
import { usePreferences } from './preferences'
import { useSession } from './session'
import { t } from '~/composables/language'

/** The queues at a glance, the one that is opened, and whether the floor shows its members only. */
export const useQueues = defineStore('queues', () => {
  const live = useLive()
  const desk = useDesk()
  const preferences = usePreferences()
  const session = useSession()
  const openedId = ref<DeviceId | null>(null)
  /** The floor shows the members of this queue, and nobody else. */
  const onlyId = ref<DeviceId | null>(null)

  const boards = computed(() => live.state ? boardsOf(live.state, desk.device) : [])
  const opened = computed(() => boards.value.find(({ id }) => id === openedId.value) ?? null)
  const only = computed(() => onlyId.value === null ? null : live.company?.groups[onlyId.value] ?? null)

  /** How lines and queues stand today; what was known last while it can't be asked. */
  const today = shallowRef<Today['places']>({})
  async function lookAtToday(): Promise<void> {
    if (!session.me || !seesCallers(session.me.role)) return
    try {
      today.value = (await $fetch<Today>('/api/figures/today')).places
    }
    catch {
      // What is under way is said elsewhere; it is asked again with the next call.
    }
  }
  // With whoever comes, is answered or gives up; a moment later, when it is written.
  watchDebounced(
    () => [session.me?.role, ...boards.value.map(({ id, waiting }) => `${id} ${waiting.map(({ call }) => call.id).join()}`)].join('\n'),
    lookAtToday, { debounce: 1_000, maxWait: 5_000, immediate: true },
  )
  /** The service level of a queue today, as it is written; null: there is nobody of whom it could be counted. */
  function levelOf(id: DeviceId): string | null {
    const level = today.value[id]?.level ?? null
    return level === null ? null : share(level)
  }

  /** A queue in a few words, for the eye and the ear alike. */
  function wordsOf(board: QueueBoard): string {
    const { waiting, since, serving } = board
    const waits = since !== null ? t('queues.waitingTheLongest', { count: waiting.length, time: spell(desk.now - since) }) : t('queues.nobodyWaitsInline')
    const paused = serving.paused > 0 ? t('queues.pausedPaused', { paused: serving.paused }) : ''
    const serves = isDeserted(board)
      ? t('queues.nobodyThereToAnswer')
      : t('queues.freeTalkingAway', { free: serving.free, busy: serving.busy, paused, away: serving.away })
    const level = levelOf(board.id)
    return `${board.name}${board.open ? '' : t('queues.closed2')}: ${waits}; ${serves}${level === null ? '' : t('queues.todayWithinThePromise', { level })}`
  }

  function open(id: DeviceId | null): void {
    openedId.value = id
    if (id !== null && !preferences.panelShown) preferences.set({ panelShown: true })
  }

  /** Opens the queue after the one that is open; after the last, none. */
  function openNext(): void {
    const next = boards.value[boards.value.findIndex(({ id }) => id === openedId.value) + 1] ?? null
    open(next?.id ?? null)
    desk.say(next ? wordsOf(next) : t('queues.noQueueIsOpen'))
  }

  /** The floor shows the members of the queue that is open, or everybody again. */
  function showOnly(): void {
    onlyId.value = onlyId.value === null ? openedId.value : null
    desk.say(only.value ? t('queues.floorOnlyMembersOfThe', { name: only.value.name }) : t('queues.floorEverybody'))
  }

  // A queue that is no more leaves nobody before a floor that is empty.
  watch(only, (now) => {
    if (!now) onlyId.value = null
  })

  return { today, boards, opened, only, levelOf, usedOf: (board: QueueBoard) => usedOf(board, desk.now), wordsOf, open, openNext, showOnly }
})
