import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import { type KeyPage, keyStrokes, mostKeys, pageStrokes, type SpeedKey, type KeyKind } from '~~/core/speed-keys/key'
import { meaningOf } from '~~/core/speed-keys/meaning'
import { sentenceOf } from '~/composables/failure'
import { useDesk } from './desk'
import { useField } from './field'
import { useLive } from './live'
import { usePreferences } from './preferences'
import { useWays } from './ways'
import { t } from '~/composables/language'

/** The stroke that leads to the keys. */
export const leader = '!'

/** Keys that say or set something, whatever call is in hand. */
const ownKinds: readonly KeyKind[] = ['status', 'line', 'opening', 'night', 'forward']

/** The pages of speed keys: which is open, what a key does, and the strokes that lead to one without the mouse. */
export const useSpeedKeys = defineStore('speedKeys', () => {
  const desk = useDesk()
  const field = useField()
  const live = useLive()
  const preferences = usePreferences()
  const ways = useWays()
  const pages = ref<KeyPage[]>([])
  const failure = ref<string | null>(null)
  /** The side panel shows keys. */
  const shown = ref(false)
  const openId = ref<string | null>(null)
  /** What the next stroke names: a page, or a key of the page that is open. */
  const awaits = ref<'page' | 'key' | null>(null)
  const arranging = ref(false)
  const open = computed(() => pages.value.find(({ id }) => id === openId.value) ?? pages.value[0] ?? null)
  const pinned = computed(() => pages.value.find(({ id }) => id === preferences.pinnedKeys) ?? null)
  let last: Promise<unknown> = Promise.resolve()

  async function load(): Promise<void> {
    try {
      pages.value = await $fetch<KeyPage[]>('/api/key-pages')
      failure.value = null
    }
    catch (error) {
      failure.value = sentenceOf(error)
    }
  }
  watch(() => [live.news.keyPages, live.connected, desk.operates], () => {
    if (live.connected && desk.operates) void load()
  }, { immediate: true })

  function show(is: boolean): void {
    shown.value = is
    awaits.value = null
    arranging.value = false
    if (is && !preferences.panelShown) preferences.set({ panelShown: true })
  }

  /** The stroke that leads to the keys: the next one names a page, the one after it a key. */
  function begin(): void {
    show(true)
    if (pages.value.length === 0) {
      desk.say(t('speedKeys.thereAreNoPagesOf'))
      return
    }
    awaits.value = 'page'
    desk.say(t('speedKeys.whichPage', { pages: pages.value.map(({ name }, index) => `${pageStrokes[index]} ${name}`).join(', ') }))
  }

  /** @returns false when what was pressed names no page and no key: it means what it means otherwise, and nothing is awaited any more */
  function stroke({ key, code, shiftKey }: Pick<KeyboardEvent, 'key' | 'code' | 'shiftKey'>): boolean {
    if (key === leader) {
      begin()
      return true
    }
    const pressed = /^Digit(\d)$/.exec(code)?.[1] ?? key.toLowerCase()
    const awaited = awaits.value
    if (pressed.length !== 1) {
      if (key !== 'Shift') awaits.value = null
      return key === 'Escape' || key === 'Shift'
    }
    awaits.value = null
    if (awaited === 'page') {
      const page = pages.value[pageStrokes.indexOf(pressed)]
      if (!page) return nothing(t('speedKeys.thereIsNoPage', { pressed }))
      openId.value = page.id
      awaits.value = 'key'
      desk.say(t('speedKeys.whichKey', { name: page.name }))
      return true
    }
    const chosen = open.value?.keys[keyStrokes.indexOf(pressed)]
    if (!chosen) return nothing(t('speedKeys.thereIsNoKeyOn', { pressed }))
    press(chosen, shiftKey)
    return true
  }

  function nothing(sentence: string): true {
    desk.refuse(t('speedKeys.nothingWasDone', { sentence }))
    return true
  }

  function meaning(key: SpeedKey, shift: boolean) {
    const console = ways.console()
    return console ? meaningOf(console, key, shift) : { why: t('speedKeys.thereIsNoTelephoneOf') }
  }

  /** Does what a key says, with the call that was in hand when the operator last saw it. */
  function press(key: SpeedKey, shift: boolean): void {
    if (key.kind === 'slot') {
      const deed = ways.aimAt(`${shift ? 'park' : 'take'} ${key.of}`)
      if (deed === 'gone') return
      if (deed) {
        void ways.perform(deed)
        return
      }
    }
    else if (!ownKinds.includes(key.kind) && !ways.stillInHand()) return
    const found = meaning(key, shift)
    if ('deed' in found) void ways.perform(found.deed)
    else desk.refuse(t('speedKeys.nothingWasDoneSentence', { why: found.why }))
  }

  /** Changes a page, here at once and on the server after whatever is being changed there already. When somebody else was first, theirs is shown. */
  function change(id: string, to: (page: KeyPage) => Partial<Pick<KeyPage, 'name' | 'keys'>>): Promise<boolean> {
    return inTurn(async () => {
      const page = pages.value.find(known => known.id === id)
      if (!page) return false
      const { name, keys } = { ...page, ...to(page) }
      put(id, { ...page, name, keys })
      put(id, await $fetch<KeyPage>(`/api/key-pages/${id}`, { method: 'PUT', body: { version: page.version, name, keys } }))
      return true
    })
  }

  async function inTurn(act: () => Promise<boolean>): Promise<boolean> {
    const turn = last.then(async () => {
      try {
        return await act()
      }
      catch (error) {
        desk.refuse(sentenceOf(error))
        await load()
        return false
      }
    })
    last = turn
    return turn
  }

  function put(id: string, page: KeyPage): void {
    pages.value = pages.value.map(known => known.id === id ? page : known)
  }

  /** Adds a page, empty or with the keys of another, and opens it. */
  function addPage(name: string, shared: boolean, keys: SpeedKey[] = []): Promise<boolean> {
    return inTurn(async () => {
      const page = await $fetch<KeyPage>('/api/key-pages', { method: 'POST', body: { name, shared, keys } })
      pages.value = [...pages.value, page]
      openId.value = page.id
      return true
    })
  }

  function removePage(id: string): Promise<boolean> {
    return inTurn(async () => {
      const page = pages.value.find(known => known.id === id)
      if (page) await $fetch(`/api/key-pages/${id}`, { method: 'DELETE', query: { version: page.version } })
      pages.value = pages.value.filter(known => known.id !== id)
      return true
    })
  }

  /** The keys of a page from a CSV file. */
  function readFile(id: string, csv: string): Promise<boolean> {
    return inTurn(async () => {
      const page = pages.value.find(known => known.id === id)
      if (page) put(id, await $fetch<KeyPage>(`/api/key-pages/${id}/csv`, { method: 'PUT', body: { version: page.version, csv } }))
      return page !== undefined
    })
  }

  /** A key of whoever or whatever is named in the field; null when nobody is. */
  const named = computed<SpeedKey | null>(() => {
    const id = field.best?.id ?? null
    if (id !== null) return keyOf(id)
    const [way] = field.ways
    if (way?.deed.do !== 'ask') return null
    const { request } = way.deed
    const number = 'number' in request ? request.number : 'to' in request ? request.to : null
    return typeof number === 'string' ? { kind: 'number', of: number, label: null } : null
  })

  /** A key of a telephone, a person, a group or a slot. */
  function keyOf(id: string): SpeedKey | null {
    const company = live.company
    if (!company) return null
    const telephone = company.telephones[id]
    if (telephone) return telephone.person === null ? { kind: 'telephone', of: id, label: null } : { kind: 'person', of: telephone.person, label: null }
    const kind = company.people[id] ? 'person' : company.groups[id] ? 'group' : company.slots[id] ? 'slot' : company.zones[id] ? 'zone' : null
    return kind && { kind, of: id, label: null }
  }

  /** Puts a key on the page that is open, at its end. True when it stands there. */
  async function add(key: SpeedKey | null): Promise<boolean> {
    const page = open.value
    if (!key) desk.say(t('speedKeys.nobodyIsNamedAKey'))
    else if (!page) desk.refuse(t('speedKeys.thereIsNoPageOf'))
    else if (page.keys.length >= mostKeys) desk.refuse(t('speedKeys.isFullItHoldsKeys', { name: page.name, mostKeys }))
    else {
      if (!shown.value) show(true)
      openId.value = page.id
      if (!await change(page.id, ({ keys }) => ({ keys: [...keys, key] }))) return false
      desk.say(t('speedKeys.onKey', { name: page.name, keyStrokes: keyStrokes[page.keys.length]! }))
      return true
    }
    return false
  }

  return {
    pages, failure, shown, open, openId, pinned, awaits, arranging, named,
    show, begin, stroke, meaning, press, change, addPage, removePage, readFile, keyOf, add,
  }
})
