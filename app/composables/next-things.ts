import { openPromises } from '~~/core/console/call-backs'
import type { PresenceKind } from '~~/core/presence/presence'
import { t } from '~/composables/language'
import type { PlainKey } from '~~/words/speaker'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'
import { useWhereabouts } from '~/stores/whereabouts'

/** What is due in the hours to come. `at`: a time that people read, in milliseconds; null: now. */
export interface NextThing { key: string, at: number | null, what: string }

const longestAhead = 12 * 60 * 60_000
const comesBack: Partial<Record<PresenceKind, PlainKey>> = {
  away: 'track.isBack', engaged: 'track.isBack', forwarded: 'track.takesCallsAgain', doNotDisturb: 'track.mayBeDisturbedAgain',
}

/** Call-backs, duties that change hands, and who comes back when: the soonest first. */
export function useNextThings(most: number) {
  const live = useLive()
  const desk = useDesk()
  const directory = useDirectory()
  const whereabouts = useWhereabouts()
  const things = shallowRef<NextThing[]>([])
  // With the clock, not with everything that happens in a large house.
  watch([() => whereabouts.now, () => live.state?.callBacks, () => live.company, () => whereabouts.known], () => {
    things.value = soonest()
  }, { immediate: true })
  return things

  function soonest(): NextThing[] {
    const { state, company } = live
    if (!state || !company) return []
    const now = whereabouts.now
    const promises = openPromises(state).filter(({ call }) => call === null).map(({ id, party, assigned, queue, notBefore }) => ({
      key: id, at: notBefore === null ? null : notBefore + state.clockOffset,
      what: t('track.isToBeCalledBack', {
        name: directory.nameOf('', party), more: assigned === desk.device ? t('track.you') : directory.nameOf(assigned ?? queue),
      }),
    }))
    const duties = Object.values(company.duties).flatMap(({ id, name }): NextThing[] => {
      const duty = whereabouts.duty(id)
      if (!duty?.until) return []
      const people = duty.next?.from === duty.until ? duty.next.people.map(directory.personName) : []
      return [{ key: `duty ${id}`, at: duty.until, what: `${name}: ${people.length > 0
        ? t('track.fromThenOn', { people: people.join(', ') })
        : t('track.nobodyFromThenOn')}` }]
    })
    const people = [...live.everybody()].flatMap(([id, { kind, until }]): NextThing[] => {
      const what = comesBack[kind]
      return what && until !== null ? [{ key: id, at: until, what: `${directory.nameOf(id)} ${t(what)}` }] : []
    })
    return [...promises, ...duties, ...people].filter(({ at }) => at === null || (at > now && at < now + longestAhead))
      .sort((a, b) => (a.at ?? 0) - (b.at ?? 0)).slice(0, most)
  }
}
