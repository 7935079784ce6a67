import { defineStore } from 'pinia'
import { ref } from 'vue'
import type { Call, DeviceId } from '~~/core/calls/model'
import type { Console, Deed } from '~~/core/console/console'
import { passing, type Way, waysTo, waysToNumber } from '~~/core/console/ways'
import { useDesk } from './desk'
import { useDialogs } from './dialogs'
import { useDirectory } from './directory'
import { useEnding } from './ending'
import { useLive } from './live'

/** Where the call in hand, or a new one, can go when somebody or something has been named; and doing what keys and buttons say. */
export const useWays = defineStore('ways', () => {
  const desk = useDesk()
  const live = useLive()
  const directory = useDirectory()
  const dialogs = useDialogs()
  const ending = useEnding()
  /** A line of text to send along with the next call that is passed on. */
  const note = ref('')
  /** Account or cost code for the next call outside. */
  const account = ref('')

  /** What the screen knows at this moment; null before there is a picture, and for who has no telephone. */
  function console(): Console | null {
    const { device, track } = desk
    return live.state && device
      ? { state: live.state, device, track, note: note.value, account: account.value, wall: live.wall(live.now()), nameOf: directory.nameOf }
      : null
  }

  /** Does what a key, a button or Enter stands for. True when it was done. */
  async function perform(deed: Deed): Promise<boolean> {
    switch (deed.do) {
      case 'ask': {
        const done = await desk.ask(deed.request)
        if (done && 'note' in deed.request && deed.request.note === note.value) note.value = ''
        return done
      }
      case 'carry': desk.carry(deed.call)
        break
      case 'takeMessage': dialogs.message = { to: deed.to, call: deed.call }
        break
      case 'sendDigits': dialogs.digits = true
        break
      case 'hush': for (const call of deed.calls) desk.hush(call)
        break
      case 'end': ending.end(deed.call)
    }
    return true
  }

  function to(id: DeviceId): Way[] {
    const now = console()
    return now ? waysTo(now, id) : []
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

  return { note, account, console, perform, to, toNumber, pass }
})
