import { unliftedIn } from '~~/core/calls/paging/intercom'
import { urgency } from '~~/core/queues/promises'
import { connectionOf, othersOf, queueOf } from '~~/core/calls/questions'
import { tellConsulted, tellRecall, whyFailed } from '~~/core/calls/story'
import { outsideParty } from '~~/core/console/console'
import { heatOf } from '~~/core/console/lateness'
import type { Ribbon } from '~~/core/console/track'
import { t } from '~/composables/language'
import { formatNumber } from '~/composables/numbers'
import { useContacts } from '~/stores/contacts'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

const waitWords = {
  answer: 'track.waiting', recall: 'track.backSince', hold: 'common.onHold', transfer: 'track.ringing', outside: 'track.outside', reply: 'track.ringing',
  none: 'track.talking',
} as const

/** What a ribbon says of its call: where it comes from, what happened to it, and how to greet. */
export function useRibbonWords(ribbon: () => Ribbon) {
  const desk = useDesk()
  const live = useLive()
  const directory = useDirectory()
  const contacts = useContacts()

  const call = computed(() => ribbon().call)
  const due = computed(() => ribbon().due)
  const waiting = computed(() => due.value.waiting)
  const used = computed(() => urgency(due.value, desk.now))
  const heat = computed(() => heatOf(used.value))
  const waits = computed(() => t(waitWords[waiting.value]))
  const name = computed(() => desk.shownName(call.value))
  const called = computed(() => desk.otherName(call.value))
  const number = computed(() => {
    const party = outsideParty(call.value, desk.device)
    return party?.number && (party.name || contacts.of(party.number)) ? formatNumber(party.number) : null
  })
  const line = computed(() => directory.line(call.value.line))
  const own = computed(() => desk.device ? connectionOf(call.value, desk.device) : undefined)
  const isNext = computed(() => desk.next?.call.id === call.value.id)
  const isAsking = computed(() => desk.consultation?.id === call.value.id)
  const several = computed(
    () => call.value.connections.length > 2 && Boolean(call.value.conference || call.value.connections.some(connection => connection.invitedBy)),
  )

  const origin = computed(() => {
    if (isAsking.value && desk.askedFor) return t('track.askingFor', { name: desk.otherName(desk.askedFor) })
    if (call.value.conference) return t('track.conference')
    // Whoever serves several queues sees from which of them a caller comes.
    const queue = queueOf(call.value)?.device
    if (queue !== undefined && queue !== live.company?.settings.operators && ribbon().stretch === 'arriving') return directory.nameOf(queue)
    if (line.value) return line.value.name
    if (call.value.direction === 'outbound') return t('track.callingOut')
    return call.value.direction === 'internal' ? t('track.inside') : directory.lineName(call.value)
  })

  const news = computed(() => {
    const { recall, passing, consulted } = call.value
    const state = live.state!
    const { failed, watched } = call.value
    if (unliftedIn(call.value)) return t('track.hearsYouNobodyHasLifted')
    if (failed) return `${directory.nameOf(failed.device)} ${t(whyFailed[failed.cause] ?? 'track.cantBeReached')}`
    if (watched) return t('track.talksOutsideWith', {
      othersOf: othersOf(call.value, call.value.calling).map(other => directory.nameOf(other.device, other.party)).join(', '),
    })
    if (passing) {
      const where = call.value.connections.some(connection => connection.state === 'queued') ? t('track.waitsInThe') : t('track.ringsAt')
      const to = call.value.connections.find(connection => connection.device === passing.to)
      return `${where} ${directory.nameOf(passing.to, to?.party)}${passing.note ? t('track.withNote', { note: passing.note }) : ''}`
    }
    if (desk.askedFor?.id === call.value.id && own.value?.state === 'held') return t('track.waitsWhileYouAsk', { name: desk.otherName(desk.consultation!) })
    if (consulted) return tellConsulted(t, consulted, directory.nameOf, state.company.settings.ringCycle)
    if (recall) {
      const back = tellRecall(t, recall, directory.nameOf, state.company.settings.ringCycle)
      return recall.to === desk.device || recall.to === state.company.settings.operators
        ? t('track.backBack', { back })
        : t('track.backFor', { name: directory.nameOf(recall.to), back })
    }
    if (waiting.value === 'hold' && used.value > 1) return t('track.onHoldLongerThanPromised')
    if (waiting.value === 'reply' && !isAsking.value) return t('track.ringingName', { name: desk.otherName(call.value) })
    return null
  })

  /** Who it is beside the name, and what must be known of them before anybody says a word. */
  const contact = computed(() => contacts.of(outsideParty(call.value, desk.device)?.number))
  const firm = computed(() => contact.value && contacts.companyOf(contact.value)?.name)
  const sign = computed(() => contact.value ? { none: '', important: '★', nuisance: '⚑' }[contact.value.mark] : '')
  const warning = computed(() => contact.value?.readFirst ? contact.value.note : null)

  /** What to say on answering, and until somebody else has had the call. */
  const greeting = computed(() => {
    const wanted = !several.value && (waiting.value === 'none' || ribbon().stretch === 'arriving')
    return wanted ? directory.greeting(call.value, desk.now) : null
  })

  /** The call as something to drag, while it can be passed on. */
  const source = computed(() => live.working && !several.value && !isAsking.value && waiting.value !== 'reply' ? call.value.id : null)

  return { call, due, used, heat, own, name, called, number, isNext, isAsking, several, origin, waits, news, greeting, source, firm, sign, warning }
}
