import { greetingAt } from '~~/core/greetings/greeting'
import { connectionOf, othersOf } from '~~/core/calls/questions'
import { tellConsulted, tellRecall, whyFailed } from '~~/core/calls/story'
import type { Ribbon } from '~~/core/console/track'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

/** With more calls waiting than this, only the next one shows its greeting. */
const roomForGreetings = 4

/** What a ribbon says of its call: where it comes from, what happened to it, and how to greet. */
export function useRibbonWords(ribbon: () => Ribbon) {
  const desk = useDesk()
  const live = useLive()
  const directory = useDirectory()

  const call = computed(() => ribbon().call)
  const waiting = computed(() => ribbon().due.waiting)
  const line = computed(() => directory.line(call.value.line))
  const own = computed(() => desk.device ? connectionOf(call.value, desk.device) : undefined)
  const isNext = computed(() => desk.next?.call.id === call.value.id)
  const isAsking = computed(() => desk.consultation?.id === call.value.id)
  const several = computed(
    () => call.value.connections.length > 2 && Boolean(call.value.conference || call.value.connections.some(connection => connection.invitedBy)),
  )

  const origin = computed(() => {
    if (isAsking.value && desk.askedFor) return `Asking for ${desk.otherName(desk.askedFor)}`
    if (call.value.conference) return 'Conference'
    if (line.value) return line.value.name
    if (call.value.direction === 'outbound') return 'Calling out'
    return call.value.direction === 'internal' ? 'Inside' : 'Your extension'
  })

  const news = computed(() => {
    const { recall, passing, consulted } = call.value
    const state = live.state!
    const { failed, watched } = call.value
    if (failed) return `${directory.nameOf(failed.device)} ${whyFailed[failed.cause] ?? 'can\'t be reached'}`
    if (watched) return `talks outside with ${othersOf(call.value, call.value.calling).map(other => directory.nameOf(other.device, other.party)).join(', ')}`
    if (passing) {
      const where = call.value.connections.some(connection => connection.state === 'queued') ? 'waits in the' : 'rings at'
      const to = call.value.connections.find(connection => connection.device === passing.to)
      return `${where} ${directory.nameOf(passing.to, to?.party)}${passing.note ? ` with “${passing.note}”` : ''}`
    }
    if (desk.askedFor?.id === call.value.id && own.value?.state === 'held') return `waits while you ask ${desk.otherName(desk.consultation!)}`
    if (consulted) return tellConsulted(consulted, directory.nameOf, state.company.settings.ringCycle)
    if (recall) {
      const back = tellRecall(recall, directory.nameOf, state.company.settings.ringCycle)
      return recall.to === desk.device || recall.to === state.company.settings.operators ? `Back: ${back}` : `Back for ${directory.nameOf(recall.to)}: ${back}`
    }
    if (waiting.value === 'reply' && !isAsking.value) return `ringing ${desk.otherName(call.value)}`
    return null
  })

  /** What to say on answering: before the answer as long as there is room for it, and until somebody else has had the call. */
  const greeting = computed(() => {
    if (!line.value || call.value.recall || several.value) return null
    const answers = call.value.story.filter(step => step.type === 'established').length
    const wanted = waiting.value === 'none' ? answers < 2 : ribbon().stretch === 'arriving' && (isNext.value || desk.arriving.length <= roomForGreetings)
    return wanted ? greetingAt(new Date(live.wall(desk.now)).getHours(), line.value.greeting) : null
  })

  return { own, isNext, isAsking, several, origin, news, greeting }
}
