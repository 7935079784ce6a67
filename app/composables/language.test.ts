import { beforeEach, describe, expect, it, vi } from 'vitest'
import { computed } from 'vue'
import { phrase } from '~~/words/phrase'

/** As a browser has it that has fetched nothing yet. */
async function fresh() {
  vi.resetModules()
  return await import('./language')
}

describe('what the interface can say', () => {
  beforeEach(() => vi.doUnmock('~~/words/en/rest'))

  it('is what the console says first, and what dialogs and other pages say once that is fetched: what is shown follows', async () => {
    const { fetchAllWords, fetchWords, hasAllWords, t } = await fresh()
    const shown = computed(() => [t('track.nobodyIsWaiting'), t('log.missed')])
    expect(shown.value).toEqual(['', ''])
    await fetchWords()
    expect([shown.value, hasAllWords()]).toEqual([['Nobody is waiting.', ''], false])
    await fetchAllWords()
    expect([shown.value, hasAllWords()]).toEqual([['Nobody is waiting.', 'Missed'], true])
  })

  it('is asked for again when the server was away', async () => {
    let away = true
    vi.doMock('~~/words/en/rest', async (original) => {
      if (away) throw new Error('away')
      return await original<object>()
    })
    const { fetchAllWords, hasAllWords, t } = await fresh()
    await expect(fetchAllWords()).rejects.toThrow()
    expect(hasAllWords()).toBe(false)
    away = false
    vi.resetModules()
    await fetchAllWords()
    expect([hasAllWords(), t('log.missed')]).toEqual([true, 'Missed'])
  })

  it('what was fetched late takes nothing back', async () => {
    const { fetchAllWords, fetchWords, hasAllWords } = await fresh()
    await Promise.all([fetchAllWords(), fetchWords()])
    await fetchWords()
    expect(hasAllWords()).toBe(true)
  })

  it('is also what travels as a phrase, and names as they are', async () => {
    const { fetchWords, say } = await fresh()
    await fetchWords()
    expect(say(phrase('names.parkSlot', { name: '3' }))).toBe('park slot 3')
    expect(say('Wren')).toBe('Wren')
  })
})
