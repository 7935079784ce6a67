import { describe, expect, it } from 'vitest'
import { speaker } from './speaker'

const messages = { en: { queue: { waits: '{count} caller waits | {count} callers wait', until: ' until {at}, {\'@\'}home', plain: 'Nobody waits' } } }
const say = speaker('en', messages) as unknown as (key: string, values?: Record<string, string | number>) => string

describe('a speaker', () => {
  it('fills the blanks, keeps the spaces, and says signs as they are', () => {
    expect(say('queue.until', { at: '10:30' })).toBe(' until 10:30, @home')
    expect(say('queue.plain')).toBe('Nobody waits')
  })

  it('chooses between the forms by the count', () => {
    expect([0, 1, 2, 21].map(count => say('queue.waits', { count }))).toEqual(['0 callers wait', '1 caller waits', '2 callers wait', '21 callers wait'])
  })

  it('says hostile values as they are', () => {
    expect(say('queue.until', { at: '{at} | @:queue.plain <b>' })).toBe(' until {at} | @:queue.plain <b>, @home')
  })
})
