import { defineStore } from 'pinia'
import type { DeviceId } from '~~/core/calls/model'
import { type Hit, searchDirectory } from '~~/core/directory/search'
import { formatNumber, readDialled } from '~~/core/numbers/dialled'
import { useDesk } from './desk'
import { useDirectory } from './directory'

const mostHits = 24
const shortestNumber = 5

/** What Enter would do now. */
export type Intent
  = | { kind: 'passOn' | 'call', to: DeviceId, words: string }
    | { kind: 'dial', number: string, words: string }
    | { kind: 'answer', words: string }
    | null

/** "Who is it for?": what is typed, who it may mean, and what Enter does with it. */
export const useField = defineStore('field', () => {
  const desk = useDesk()
  const directory = useDirectory()
  const text = ref('')
  /** Somebody chosen by hand from the floor; typing forgets them. */
  const picked = ref<DeviceId | null>(null)
  const selected = ref(0)

  const hits = computed<Hit[]>(() => {
    if (picked.value) return [{ extension: picked.value, score: 1, because: null }]
    return searchDirectory(directory.index, text.value, mostHits)
  })
  const isSearching = computed(() => picked.value !== null || text.value.trim() !== '')
  const best = computed(() => hits.value[Math.min(selected.value, hits.value.length - 1)] ?? null)

  const intent = computed<Intent>(() => {
    if (best.value) return towards(best.value.extension)
    if (text.value.trim()) return dialling(text.value)
    const { next } = desk
    return next ? { kind: 'answer', words: `answers ${desk.otherName(next.call)}` } : null
  })

  function towards(extension: DeviceId): Intent {
    if (extension === desk.device) return null
    const name = directory.nameOf(extension)
    if (desk.baton) return { kind: 'passOn', to: extension, words: `passes ${desk.otherName(desk.baton)} on to ${name}` }
    return { kind: 'call', to: extension, words: `calls ${name}` }
  }

  function dialling(typed: string): Intent {
    const dialled = readDialled(typed)
    if (dialled.kind === 'invalid' || desk.baton || typed.replace(/\D/g, '').length < shortestNumber) return null
    const shown = dialled.kind === 'outside' ? formatNumber(dialled.e164) : dialled.digits
    return { kind: 'dial', number: typed.trim(), words: `calls ${shown}` }
  }

  function clear(): void {
    text.value = ''
    picked.value = null
    selected.value = 0
  }

  function type(value: string): void {
    text.value = value
    picked.value = null
    selected.value = 0
  }

  function pick(extension: DeviceId): void {
    picked.value = extension
    text.value = directory.nameOf(extension)
    selected.value = 0
  }

  /** Moves the mark by one: among the answers while searching, else among the calls that arrive. */
  function move(by: 1 | -1): void {
    if (isSearching.value) {
      const { length } = hits.value
      if (length > 0) selected.value = (selected.value + by + length) % length
      return
    }
    const calls = desk.arriving.map(ribbon => ribbon.call.id)
    if (calls.length === 0) return
    const at = calls.indexOf(desk.next!.call.id)
    desk.chosen = calls[(at + by + calls.length) % calls.length]!
  }

  /** Does what the hint says. The field is emptied once it is done, and keeps its text when it was refused. */
  async function act(what: Intent): Promise<void> {
    if (!what) return
    if (what.kind === 'answer') {
      await desk.ask({ service: 'answerCall', call: desk.next!.call.id })
      return
    }
    const done = what.kind === 'passOn'
      ? await desk.ask({ service: 'singleStepTransferCall', call: desk.baton!.id, to: what.to })
      : await desk.ask({ service: 'makeCall', number: what.kind === 'dial' ? what.number : what.to })
    if (done) clear()
  }

  return { text, picked, selected, hits, isSearching, best, intent, towards, clear, type, pick, move, act }
})
