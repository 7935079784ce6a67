import type { CallBack } from '~~/core/calls/model'
import { type Standing, standingOf } from '~~/core/console/call-backs'
import { formatNumber } from '~/composables/numbers'
import { useContacts } from '~/stores/contacts'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

const endings = {
  reached: (who: string) => `called back by ${who}`,
  calledAgain: (who: string) => `called again, and talked with ${who}`,
  unreached: () => 'not reached',
  withdrawn: (who: string) => `ended by ${who}`,
}

/** Promises to call back in words. */
export function useCallBackWords() {
  const live = useLive()
  const directory = useDirectory()
  const contacts = useContacts()
  const clock = (at: number) => shownAt(live.wall(at)).format('H:mm')

  function callerOf({ party }: CallBack): string {
    return contacts.of(party.number)?.name ?? party.name ?? (party.number ? formatNumber(party.number) : 'A caller')
  }

  function standing(promise: CallBack): string {
    const { how, device, at } = standingOf(live.state!, promise)
    const who = device ? directory.nameOf(device) : 'somebody'
    const words: Record<Standing['how'], string> = {
      ringing: `rings at ${who}`,
      calling: `${who} is calling them`,
      onTheLine: device ? `on the line with us, at ${who}` : 'on the line with us',
      later: `did not answer, again at ${clock(at ?? 0)}`,
      taken: `${who} has it`,
      closed: 'as soon as it is open',
      rings: 'as soon as somebody is free',
      waits: 'for whoever takes it',
    }
    return words[how]
  }

  function ending({ end, endedBy, endedAt }: CallBack): string {
    return end ? `${endings[end](endedBy ? directory.nameOf(endedBy) : 'somebody')}, ${clock(endedAt ?? 0)}` : ''
  }

  /** Who promised it, when. */
  function promising({ by, promisedAt, line }: CallBack): string {
    const on = directory.line(line)?.name
    return `${by ? `Promised by ${directory.nameOf(by)}` : 'They asked for it while they waited'}, ${clock(promisedAt)}${on ? `, on the ${on}` : ''}.`
  }

  return { callerOf, standing, ending, promising, clock }
}
