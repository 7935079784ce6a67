import { describe, expect, it, vi } from 'vitest'
import { merrowby } from '~~/demo/company/merrowby'
import { densities } from '~~/core/console/floor'
import { useContacts } from '~/stores/contacts'
import { useDesk } from '~/stores/desk'
import { useDialogs } from '~/stores/dialogs'
import { useField } from '~/stores/field'
import { usePreferences } from '~/stores/preferences'
import { useQueues } from '~/stores/queues'
import { useSpeedKeys } from '~/stores/speed-keys'
import { beginAtADesk, inHand, others, settled, tried } from '~~/tests/desk'
import { useLive } from '~/stores/live'
import { useHandKeys } from './hand-keys'

/** What a key does in the field: to the calls while nothing is typed, to whoever is named while something is. */
beginAtADesk(() => merrowby(40))
vi.stubGlobal('document', { getElementById: () => null, activeElement: { isConnected: true }, body: {} })

function press(name: string): boolean {
  const parts = name.split('+')
  const key = parts.at(-1)!
  const event = { key, shiftKey: parts.includes('Shift'), ctrlKey: parts.includes('Ctrl'), altKey: parts.includes('Alt'), metaKey: false, repeat: false }
  return useHandKeys().press(event as KeyboardEvent)
}
const lastSaid = () => vi.mocked(useDesk().say).mock.lastCall?.[0]
const at = (call: string) => tried.exchange.state.calls.get(call)?.connections.find(({ device }) => device === 't2100')?.state

function rings(number = '+447700900555', name: string | null = 'Ada Fenn'): string {
  const call = tried.exchange.offer('+441632960000', { number, name })
  useLive().state = tried.exchange.state
  return call
}

describe('while nothing is typed', () => {
  it('keys do to the call in hand what they stand for', async () => {
    const call = rings()
    expect(press('Enter')).toBe(true)
    await vi.waitFor(() => expect(at(call)).toBe('connected'))
    press(' ')
    await vi.waitFor(() => expect(at(call)).toBe('held'))
    press(' ')
    await vi.waitFor(() => expect(at(call)).toBe('connected'))
    press('F2')
    await vi.waitFor(() => expect(tried.exchange.call(call).connections.find(({ device }) => device === 't2100')!.muted).toBe(true))
  })

  it('a key that finds nothing to do says so, one that means nothing is left to the page', () => {
    expect(press('F8')).toBe(true)
    expect(lastSaid()).toMatch(/^Nobody|^Nothing|^No /)
    expect(press('F7')).toBe(false)
    expect(press('q')).toBe(false)
  })

  it('signs tell who waits, where everybody is, and what is in hand', () => {
    press('?')
    expect(lastSaid()).toBe('Nobody is waiting.')
    rings()
    press('?')
    expect(lastSaid()).toContain('1 waiting. Next: Ada Fenn, General line')
    press('.')
    expect(lastSaid()).toContain('Next: Ada Fenn')
    press(',')
    expect(vi.mocked(useDesk().say).mock.lastCall).toEqual([expect.any(String), 'urgent'])
    press(':')
    expect(lastSaid()).toBe(useDesk().said.at(-1)?.text ?? 'Nothing has happened yet.')
  })

  it('signs show: larger windows, the side panel, queues one after the other, speed keys', () => {
    const preferences = usePreferences()
    const density = preferences.density
    press('/')
    expect(preferences.density).not.toBe(density)
    expect(lastSaid()).toBe(`Floor: ${preferences.density}`)
    for (let more = 1; more < densities.length; more++) press('/')
    expect(preferences.density).toBe(density)
    const shown = preferences.panelShown
    press('-')
    expect([preferences.panelShown, lastSaid()]).toEqual([!shown, shown ? 'Side panel hidden' : 'Side panel shown'])
    press('-')
    expect([preferences.panelShown, lastSaid()]).toEqual([shown, shown ? 'Side panel shown' : 'Side panel hidden'])
    press('=')
    expect(useQueues().opened?.id).toBe(useQueues().boards[0]!.id)
  })

  it('whoever calls is written down, when there is a number', async () => {
    press('_')
    expect([useDialogs().contact, lastSaid()]).toEqual([null, 'No number is known to write down'])
    others({ service: 'answerCall', device: 't2100', call: rings() })
    await settled()
    press('_')
    expect(useDialogs().contact).toEqual(useContacts().pageOf('+447700900555', 'Ada Fenn'))
  })

  it('who withheld their number is not', () => {
    others({ service: 'answerCall', device: 't2100', call: rings(null as unknown as string) })
    press('_')
    expect(useDialogs().contact).toBeNull()
  })
})

describe('while something is typed', () => {
  it('Enter passes the call in hand on to whoever is first', async () => {
    const call = inHand()
    useField().type('2105')
    expect(press('Enter')).toBe(true)
    await vi.waitFor(() => expect(tried.exchange.call(call.id).passing).toMatchObject({ to: 't2105' }))
  })

  it('keys of the call in hand are text', () => {
    const call = inHand()
    useField().type('A')
    expect(press(' ')).toBe(false)
    expect(press('?')).toBe(false)
    expect(at(call.id)).toBe('connected')
  })

  it('a key that leads nowhere from whoever is marked says so, and nothing is done', () => {
    useField().type('2105')
    expect(press('F8')).toBe(true)
    expect(useDesk().notice).toMatch(/^F8 does nothing with .* now\. Nothing was done\.$/)
    useField().type('qqzzqq')
    expect(press('Shift+F2')).toBe(true)
    expect(useDesk().notice).toBe('Shift+F2 does nothing with “qqzzqq” now. Nothing was done.')
  })

  it('arrows mark another answer, Escape empties', () => {
    const field = useField()
    field.type('Netherby')
    const first = field.best?.id
    expect(press('ArrowDown')).toBe(true)
    expect(field.best?.id).not.toBe(first)
    press('ArrowUp')
    expect(field.best?.id).toBe(first)
    expect(press('Escape')).toBe(true)
    expect(field.text).toBe('')
  })

  it('Shift and F9 make a speed key of whoever is named', () => {
    const add = vi.mocked(useSpeedKeys().add).mockResolvedValue(undefined as never)
    useField().type('2105')
    expect(press('Shift+F9')).toBe(true)
    expect(add).toHaveBeenCalledWith(useSpeedKeys().named)
  })
})

it('where the field is not in sight keys are those of the calls, whatever is typed in it', async () => {
  const call = rings()
  useField().type('2105')
  useHandKeys().pressInHand({ key: 'Enter', altKey: true, shiftKey: false, ctrlKey: false, metaKey: false } as KeyboardEvent)
  await vi.waitFor(() => expect(at(call)).toBe('connected'))
})
