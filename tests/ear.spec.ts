import type { Page } from '@playwright/test'
import { expect, ribbon, type Stage, test } from './stage'

/** Everything that has been said, in order. */
const heard = (page: Page) => page.getByRole('log', { name: 'What happens' }).getByRole('paragraph').allTextContents()

/** Waits until something is said that was not said before `from`, and gives back how much has been said by then. */
async function hears(page: Page, words: string | RegExp, from = 0): Promise<void> {
  const said = async () => (await heard(page)).slice(from).some(text => typeof words === 'string' ? text.includes(words) : words.test(text))
  await expect.poll(said, { message: `“${String(words)}” is to be heard` }).toBe(true)
}

/** What the marked answer says. */
const marked = (page: Page) => page.evaluate(() => {
  const id = document.activeElement?.getAttribute('aria-activedescendant')
  return id ? document.getElementById(id)?.textContent ?? '' : ''
})

const colleagues = [
  { words: 'Marit Upwater', device: 't2274' }, { words: 'Idris Vintry', device: 't2279' }, { words: 'Petra Knotwell', device: 't2270' },
  { words: 'Yorick Skarne', device: 't2236' }, { words: 'Joss Fluke', device: 't2267' },
]

async function whereIs({ cast }: Stage, call: string): Promise<string[]> {
  return cast.state.calls.get(call)?.connections.map(({ device }) => device) ?? []
}

test('a morning by keyboard and announcements alone: twenty callers routed right, some of whom give up at the worst moments', async ({ console, stage }) => {
  test.setTimeout(240_000)
  const { cast } = stage
  await console.request.patch('/api/preferences', { data: { voice: 'fast' } })
  await console.reload()
  await console.getByRole('combobox', { name: 'Who is it for?' }).waitFor()
  for (let i = 0; i < 20; i++) {
    const colleague = colleagues[i % colleagues.length]!
    const caller = `Caller ${String.fromCharCode(65 + i)}ndersen`
    const call = await cast.ring(caller, { to: i % 2 ? '+441632960010' : '+441632960000' })
    await hears(console, `${i % 2 ? 'Freight line' : 'General line'}: ${caller}`)
    await console.getByRole('button', { name: `answers ${caller}` }).waitFor()
    // While Enter stands for this caller another gives up, or overtakes: nothing else may be answered.
    const worst = i % 4 === 1 ? await cast.ring(`Giving Up ${i}`) : null
    if (worst) {
      await hears(console, `Giving Up ${i}`)
      await Promise.all([cast.hangUp(worst), console.keyboard.press('Enter')])
    }
    else await console.keyboard.press('Enter')
    await hears(console, `You have ${caller}`)
    await console.keyboard.type(colleague.words.toLowerCase())
    await expect.poll(() => marked(console)).toContain(colleague.words)
    expect(await marked(console)).toMatch(/Free/)
    if (i % 5 === 3) {
      // The caller hangs up while the hand is on its way to Enter, and another one waits on hold or rings.
      const next = await cast.ring(`Innocent ${i}`)
      await hears(console, `Innocent ${i}`)
      await cast.hangUp(call)
      await console.keyboard.press('Enter')
      await hears(console, `${caller} hung up`)
      expect(await whereIs(stage, next)).not.toContain(colleague.device)
      await expect(ribbon(console, 'Arriving', `Innocent ${i}`)).toBeVisible()
      await console.keyboard.press('Escape')
      await console.keyboard.press('Escape')
      await cast.hangUp(next)
      await hears(console, `Innocent ${i} gave up`)
      const ringing = [...cast.state.calls.values()].filter(({ connections }) => connections.some(({ device }) => device === colleague.device))
      for (const called of ringing) await cast.leave('t2100', called.id)
      continue
    }
    await console.keyboard.press('Enter')
    await hears(console, `${caller} passed on to ${colleague.words}`)
    expect(await whereIs(stage, call)).toContain(colleague.device)
    await cast.answer(colleague.device, call)
    await hears(console, `${colleague.words} took it: ${caller}`)
    await cast.hangUp(call)
  }
})

test('who gives up is said, on hold, parked and in hand; the key that was meant for them does nothing with anybody else', async ({ console, stage }) => {
  const { cast } = stage
  const calls: Record<string, string> = {}
  for (const name of ['Held First', 'Held Second']) {
    calls[name] = await cast.ring(name)
    await ribbon(console, 'Arriving', name).waitFor()
    await console.keyboard.press('Enter')
    await hears(console, `You have ${name}`)
    await console.keyboard.press('Space')
    await hears(console, `${name} on hold`)
  }
  await cast.hangUp(calls['Held First']!)
  await console.keyboard.press('Space')
  await hears(console, 'Held First hung up while on hold')
  await expect(ribbon(console, 'In hand', 'Held Second')).toContainText('on hold')
  await expect(console.getByRole('alert').filter({ hasText: /Held First has gone\. Nothing was done|That call is over/ })).toBeVisible()
  await console.keyboard.press('Space')
  await hears(console, 'Held Second again')

  await console.keyboard.type('*2')
  await hears(console, 'Held Second parked in park slot 2')
  await console.keyboard.type('#3')
  await expect(console.getByRole('alert').filter({ hasText: 'Nobody waits in park slot 3. Nothing was done.' })).toBeVisible()
  await cast.hangUp(calls['Held Second']!)
  await hears(console, 'Held Second gave up in park slot 2')
})

test('on request: who waits, where everybody is, this call, and what was said last; what can do nothing says so', async ({ console, stage }) => {
  const { cast } = stage
  await console.keyboard.press('?')
  await hears(console, 'Nobody is waiting.')
  await console.keyboard.press('F2')
  await hears(console, 'No call in hand')
  const call = await cast.ring('Asked About', { from: '+442079460123' })
  await ribbon(console, 'Arriving', 'Asked About').waitFor()
  await console.keyboard.press('?')
  await hears(console, /^1 waiting\. Next: Asked About, General line, 0:\d\d\.$/)
  await console.keyboard.press('Enter')
  await hears(console, 'how can I help?')
  await cast.say(call, 'Two lorries for Thursday')
  await ribbon(console, 'In hand', 'Two lorries').waitFor()
  await console.keyboard.press('.')
  await hears(console, /^In hand: Asked About\. 020 7946 0123\. General line\. .*Says: Two lorries for Thursday\.$/)
  await console.keyboard.press('Space')
  await hears(console, 'Asked About on hold')
  await console.keyboard.press(',')
  await hears(console, /^On hold: Asked About, 0:\d\d\.$/)
  const { length } = await heard(console)
  await console.keyboard.press(':')
  await hears(console, 'On hold: Asked About', length)
  await console.keyboard.type('zzzz')
  await hears(console, 'Nobody found')
  await console.keyboard.press('Escape')
  await console.keyboard.type('freight')
  await console.keyboard.press('Control+Enter')
  await expect(console.getByRole('alert').filter({ hasText: 'Ctrl+Enter does nothing with Freight now.' })).toBeVisible()
})

test('ending names whom it ends, and anything in between disarms it', async ({ console, stage }) => {
  await stage.cast.ring('Precious Caller')
  await ribbon(console, 'Arriving', 'Precious Caller').waitFor()
  await console.keyboard.press('Enter')
  await hears(console, 'You have Precious Caller')
  await console.keyboard.press('Delete')
  await hears(console, 'Press again to end the call with Precious Caller')
  await console.keyboard.press('Space')
  await hears(console, 'Precious Caller on hold')
  await console.keyboard.press('Space')
  await hears(console, 'Precious Caller again')
  const { length } = await heard(console)
  await console.keyboard.press('Delete')
  await hears(console, 'Press again to end the call with Precious Caller', length)
  await expect(ribbon(console, 'In hand', 'Precious Caller')).toContainText('talking')
})
