import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { type Aim, aimed, type Aims, goneFor, meaningsOf } from '~~/core/console/aims'
import type { Call, DeviceId } from '~~/core/calls/model'
import type { Console, Deed } from '~~/core/console/console'
import { passing, type Way, waysTo, waysToNumber } from '~~/core/console/ways'
import { contactOfEntry } from '~~/core/directory/entries'
import { withNumber } from '~~/core/company/lookups'
import { t } from '~/composables/language'
import { formatNumber, readDialled } from '~/composables/numbers'
import { useContacts } from './contacts'
import { useDesk } from './desk'
import { useDialogs } from './dialogs'
import { useDirectory } from './directory'
import { useEnding } from './ending'
import { steady, useLive } from './live'
import { useWhereabouts } from './whereabouts'

/** Where the call in hand, or a new one, can go when somebody or something has been named; and doing what keys and buttons say. */
export const useWays = defineStore('ways', () => {
  const desk = useDesk()
  const live = useLive()
  const directory = useDirectory()
  const contacts = useContacts()
  const dialogs = useDialogs()
  const ending = useEnding()
  const whereabouts = useWhereabouts()
  /** A line of text to send along with the next call that is passed on. */
  const note = ref('')
  /** Account or cost code for the next call outside. */
  const account = ref('')

  /** What the screen knows at this moment; null before there is a picture, and for who has no telephone. */
  function console(): Console | null {
    const { device, track } = desk
    return live.state && device
      ? { state: live.state, device, track, note: note.value, account: account.value, wall: live.wall(live.now()), nameOf: directory.nameOf, t }
      : null
  }

  /** What each key that names nobody is meant for, as far as the operator has had time to notice. */
  const aims = shallowRef<Aims>({})

  function look(byHand: boolean): void {
    const now = console()
    if (now) aims.value = aimed(aims.value, meaningsOf(now), steady(), byHand, desk.refusedFor)
  }
  watch(() => [desk.now, live.state], () => look(false))
  watch(() => desk.done, () => look(true))

  /** What a key is meant for; null when there is nothing to do. When whoever it was meant for has gone, that is said, and nothing is to be done. */
  function aimAt(key: string): Deed | 'gone' | null {
    look(false)
    const now = console()
    const aim: Aim | undefined = aims.value[key]
    const gone = now && aim && goneFor(now, aim)
    if (!gone) return aim?.meant?.deed ?? null
    desk.refuse(t('field.hasGoneNothingWasDone', { gone }))
    look(true)
    return 'gone'
  }

  /**
   * True when the call in hand is the one that the operator last had time to see there. When it is not, that is said: whatever names nobody itself
   * (a speed key) must not take another caller along.
   */
  function stillInHand(): boolean {
    look(false)
    const meant = aims.value.inHand?.meant ?? null
    const inHand = desk.baton?.id ?? null
    if (meant === null || meant.call === inHand) return true
    const gone = !live.state?.calls.has(meant.call!)
    desk.refuse(t('field.nothingWasDone', { more: gone ? t('field.whomHasGone', { whom: meant.whom }) : t('field.anotherCallIsInHand') }))
    look(true)
    return false
  }

  /** Whom Enter was meant for and who has gone a moment ago. */
  const missed = computed(() => {
    const now = console()
    const aim = aims.value.Enter
    return now && aim ? goneFor(now, aim) : null
  })

  /** Does what a key, a button or Enter stands for. True when it was done. */
  async function perform(deed: Deed): Promise<boolean> {
    if (deed.do !== 'end') ending.forget()
    switch (deed.do) {
      case 'ask': {
        const done = await desk.ask(deed.request)
        if (done && 'note' in deed.request && deed.request.note === note.value) note.value = ''
        return done
      }
      case 'askAll': {
        for (const request of deed.requests) if (!await desk.ask(request)) return false
        return true
      }
      case 'carry': desk.carry(deed.call)
        break
      case 'takeMessage': dialogs.message = { to: deed.to, call: deed.call }
        break
      case 'sendDigits': dialogs.digits = true
        break
      case 'forward': dialogs.forwarding = deed.of
        break
      case 'quiet': dialogs.quiet = deed.of
        break
      case 'hush': for (const call of deed.calls) desk.hush(call)
        break
      case 'end': ending.end(deed.call)
    }
    return true
  }

  function to(id: DeviceId): Way[] {
    const now = console()
    const outside = contactOfEntry(id)
    if (outside !== null) return toContact(outside)
    const duty = whereabouts.duty(id)
    if (duty) return toDestination(whereabouts.reach(duty))
    return now ? waysTo(now, id) : []
  }

  /** To somebody by id, or to whatever a number of ours or outside reaches. */
  function toDestination(to: string): Way[] {
    const dialled = readDialled(to)
    if (dialled.kind === 'outside') return toNumber(to, formatNumber(dialled.e164))
    const now = console()
    if (!now) return []
    const { company } = now.state
    const number = dialled.kind === 'inside' ? dialled.digits : ''
    return waysTo(now, withNumber(company, number)?.id ?? to)
  }

  /** To the first number of somebody outside, or to the mobile that they have beside it. */
  function toContact(id: string): Way[] {
    const contact = contacts.known.get(id)
    const [first, ...others] = contact?.numbers ?? []
    if (!contact || !first) return []
    const mobile = others.find(({ kind }) => kind === 'mobile')
    const reach = ({ number }: { number: string }) => toNumber(number, `${contact.name}, ${formatNumber(number)}`)
    return [...reach(first), ...(mobile ? reach(mobile).slice(0, 1).map((way): Way => ({ ...way, id: 'mobile', label: t('common.mobile'), key: 'F9' })) : [])]
  }

  /** To a number outside, or to a short number that was typed; `shown`: how it is said. */
  function toNumber(number: string, shown: string): Way[] {
    const now = console()
    return now ? waysToNumber(now, number, shown) : []
  }

  function pass(call: Call, destination: string): Promise<boolean> {
    const now = console()
    return now ? perform(passing(now, call, destination)) : Promise.resolve(false)
  }

  return { note, account, missed, console, aimAt, stillInHand, perform, to, toNumber, pass }
})
