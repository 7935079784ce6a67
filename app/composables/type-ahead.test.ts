import fc from 'fast-check'
import { describe, expect, it, vi } from 'vitest'
import { effectScope, nextTick, reactive, ref } from 'vue'
import { useTypeAhead } from './type-ahead'

const desk = reactive({ notice: null as string | null })
const field = reactive({ text: '', looking: false, type: (text: string) => void (field.text = text) })
const live = reactive({ working: true })
vi.mock('~/stores/live', () => ({ useLive: () => live }))
vi.mock('~/stores/desk', () => ({ useDesk: () => desk }))
vi.mock('~/stores/field', () => ({ useField: () => field }))

/** A console whose exchange answers when it is told to: Enter asks, a space does while nothing is typed, whatever else is typed is text. */
function console() {
  Object.assign(field, { text: '', looking: false })
  desk.notice = null
  const asking = ref(false)
  const acted: string[] = []
  let meant = ''
  const scope = effectScope()
  const take = scope.run(() => useTypeAhead(asking, ({ key }) => {
    const acts = key === 'Enter' || (key === ' ' && field.text === '')
    if (acts) {
      acted.push(`${key} with “${field.text}”`)
      desk.notice = null
      asking.value = true
      meant = field.text
    }
    if (key === 'Escape') field.text = ''
    return acts || key === 'Escape'
  }))!
  let at = 10_000
  return {
    acted, asking,
    async press(key: string) {
      // Fast, but no slip of the eraser.
      at += 1_000
      const taken = take({ key, timeStamp: at, ctrlKey: false } as KeyboardEvent)
      if (!taken && key.length === 1) field.text += key
      if (!taken && key === 'Backspace') field.text = field.text.slice(0, -1)
      await nextTick()
    },
    async answers(refusal: string | null = null) {
      // What was meant is done: what has been written behind it stays.
      if (asking.value && refusal === null) field.text = field.text.slice(meant.length)
      desk.notice = refusal
      asking.value = false
      await nextTick()
    },
    close: () => scope.stop(),
  }
}

const keys = fc.array(fc.constantFrom('a', 'b', ' ', 'Enter', 'Backspace'), { maxLength: 24 })
  .map(all => all.filter((key, at) => key !== 'Enter' || all[at - 1] !== 'Enter'))

describe('keys pressed while the exchange is still answering', () => {
  it('do what they would have done had every answer come at once', async () => {
    await fc.assert(fc.asyncProperty(keys, fc.infiniteStream(fc.nat(3)), async (pressed, moments) => {
      const quick = console()
      for (const key of pressed) {
        await quick.press(key)
        await quick.answers()
      }
      const meant = [...quick.acted, field.text]
      quick.close()
      const slow = console()
      for (const key of pressed) {
        await slow.press(key)
        if (moments.next().value === 0) await slow.answers()
      }
      for (let rounds = 0; slow.asking.value && rounds < 50; rounds++) await slow.answers()
      expect([...slow.acted, field.text]).toEqual(meant)
      slow.close()
    }))
  })

  it('are dropped behind what was refused, by Escape, and with the connection', async () => {
    const one = console()
    for (const key of ['Enter', 'a', 'Enter']) await one.press(key)
    await one.answers('Somebody else has answered.')
    expect([one.acted, field.text], 'what was written is there to be seen').toEqual([['Enter with “”'], 'a'])
    await one.press('Escape')
    for (const key of ['Enter', 'b', 'Enter', 'Escape']) await one.press(key)
    await one.answers()
    expect([one.acted, field.text]).toEqual([['Enter with “”', 'Enter with “”'], ''])
    for (const key of ['Enter', 'b', 'Enter']) await one.press(key)
    live.working = false
    await nextTick()
    live.working = true
    await one.answers()
    expect([one.acted.length, field.text]).toEqual([3, 'b'])
    one.close()
  })

  it('answer nobody else when Enter is pressed twice', async () => {
    const one = console()
    await one.press('Enter')
    await one.press('Enter')
    await one.answers()
    for (const key of [' ', 'Enter', 'Enter']) await one.press(key)
    await one.answers()
    await one.answers()
    expect(one.acted).toEqual(['Enter with “”', '  with “”', 'Enter with “”'])
    one.close()
  })
})
