import type { CallBack } from '~~/core/calls/model'
import { type Standing, standingOf } from '~~/core/console/call-backs'
import { t } from '~/composables/language'
import { formatNumber } from '~/composables/numbers'
import { useContacts } from '~/stores/contacts'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

const endings = {
  reached: (who: string) => t('callBacks.calledBackBy', { who }),
  calledAgain: (who: string) => t('callBacks.calledAgainAndTalkedWith', { who }),
  unreached: () => t('callBacks.notReached'),
  withdrawn: (who: string) => t('callBacks.endedBy', { who }),
}

/** Promises to call back in words. */
export function useCallBackWords() {
  const live = useLive()
  const directory = useDirectory()
  const contacts = useContacts()
  const clock = (at: number) => shownAt(live.wall(at)).format('H:mm')

  function callerOf({ party }: CallBack): string {
    return contacts.of(party.number)?.name ?? party.name ?? (party.number ? formatNumber(party.number) : t('callBacks.aCaller'))
  }

  function standing(promise: CallBack): string {
    const { how, device, at } = standingOf(live.state!, promise)
    const who = device ? directory.nameOf(device) : t('callBacks.somebody')
    const words: Record<Standing['how'], string> = {
      ringing: t('callBacks.ringsAt', { who }),
      calling: t('callBacks.isCallingThem', { who }),
      onTheLine: device ? t('callBacks.onTheLineWithUs', { who }) : t('callBacks.onTheLineWithUsInline'),
      later: t('callBacks.didNotAnswerAgainAt', { at: clock(at ?? 0) }),
      taken: t('callBacks.hasIt', { who }),
      closed: t('callBacks.asSoonAsItIs'),
      rings: t('callBacks.asSoonAsSomebodyIs'),
      waits: t('callBacks.forWhoeverTakesIt'),
    }
    return words[how]
  }

  function ending({ end, endedBy, endedAt }: CallBack): string {
    return end ? `${endings[end](endedBy ? directory.nameOf(endedBy) : t('callBacks.somebody'))}, ${clock(endedAt ?? 0)}` : ''
  }

  /** Who promised it, when. */
  function promising({ by, promisedAt, line }: CallBack): string {
    const on = directory.line(line)?.name
    return `${by
      ? t('callBacks.promisedBy', { name: directory.nameOf(by) })
      : t('callBacks.theyAskedForItWhile')}, ${clock(promisedAt)}${on ? t('callBacks.onThe', { on }) : ''}.`
  }

  return { callerOf, standing, ending, promising, clock }
}
