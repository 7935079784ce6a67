import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { useAsking } from './asking'

beforeEach(() => void vi.useFakeTimers())
afterEach(() => void vi.useRealTimers())

/** A question that is answered when the test says so. */
function question() {
  const answers: { resolve: () => void, reject: (error: Error) => void }[] = []
  const refresh = useAsking(() => new Promise<void>((resolve, reject) => answers.push({ resolve, reject })))
  return { answers, refresh }
}
const turn = () => vi.advanceTimersByTimeAsync(0)

it('one question at a time; news meanwhile is asked for once, however often it came', async () => {
  const { answers, refresh } = question()
  const all = Promise.all([refresh(), refresh(), refresh()])
  expect(answers).toHaveLength(1)
  answers[0]!.resolve()
  await turn()
  expect(answers).toHaveLength(2)
  answers[1]!.resolve()
  await all
  expect(answers).toHaveLength(2)
  void refresh()
  expect(answers).toHaveLength(3)
})

it('what was asked in vain is asked again five seconds later, and whoever waits is not held up', async () => {
  const { answers, refresh } = question()
  const asked = refresh()
  answers[0]!.reject(new Error('away'))
  await asked
  await vi.advanceTimersByTimeAsync(4_999)
  expect(answers).toHaveLength(1)
  await vi.advanceTimersByTimeAsync(1)
  expect(answers).toHaveLength(2)
  answers[1]!.resolve()
  await vi.advanceTimersByTimeAsync(60_000)
  expect(answers).toHaveLength(2)
})
