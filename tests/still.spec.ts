import type { Page } from '@playwright/test'
import { expect, ribbon, test } from './stage'

/** Where every control outside the stretches of the track lies, by what it is called. */
function boxes(page: Page) {
  return page.evaluate(() => {
    const all = Array.from(document.querySelectorAll<HTMLElement>('button, a, input, [role="separator"]'))
    const controls = all.filter(control => control.checkVisibility() && !control.closest('.stretch, .panel'))
    return controls.map((control) => {
      const { x, y, width, height } = control.getBoundingClientRect()
      // What a control says may change with the calls; where it is may not.
      return `${control.tagName} ${[x, y, width, height].map(Math.round).join(' ')}`
    })
  })
}

test('a burst of twenty calls moves nothing that can be pressed outside the track', async ({ console, stage }) => {
  const { cast } = stage
  await cast.ring('First Caller', { from: '+442079460001' })
  await expect(ribbon(console, 'Arriving', 'First Caller')).toBeVisible()
  const before = await boxes(console)
  expect(before.length).toBeGreaterThan(180)
  const calls: string[] = []
  for (let i = 2; i <= 20; i++) {
    const from = i % 4 === 0 ? null : `+4420794600${10 + i}`
    calls.push(await cast.ring(i % 3 === 0 ? null : `Caller ${i}`, { from, to: i % 2 ? '+441632960000' : '+441632960010' }))
    if (i % 5 === 0) expect(await boxes(console)).toEqual(before)
  }
  await expect(console.getByRole('heading', { name: /^Arriving 20 \d+ more, longest \d:\d\d$/ })).toBeVisible()
  expect(await boxes(console)).toEqual(before)
  for (const call of calls.slice(0, 12)) await cast.hangUp(call)
  await expect(console.getByRole('heading', { name: /^Arriving 8/ })).toBeVisible()
  expect(await boxes(console)).toEqual(before)
})

test('counts in the header come and grow, and nothing moves for them', async ({ console, stage }) => {
  const before = await boxes(console)
  for (let i = 0; i < 12; i++) await stage.cast.ask({ service: 'promiseCallBack', device: 't2101', number: `07700 9001${10 + i}`, queue: 'queue:freight' })
  await expect(console.getByRole('link', { name: 'Call-backs, 12 to be done' })).toBeVisible()
  expect(await boxes(console)).toEqual(before)
  for (const callBack of stage.cast.state.callBacks.keys()) await stage.cast.ask({ service: 'endCallBack', device: 't2101', callBack })
})

test('ten waiting callers are in sight, and names and numbers of the usual length whole', async ({ console, stage }) => {
  for (let i = 0; i < 10; i++) await stage.cast.ring(`Bartholomew Hargreaves ${i}`, { from: `+44207946010${i}` })
  const region = console.getByRole('region', { name: 'Arriving' })
  await expect(region.getByRole('button', { name: /^Answer/ })).toHaveCount(10)
  await expect(console.getByRole('heading', { name: 'Arriving 10', exact: true })).toBeVisible()
  const bottom = (await region.boundingBox())!.y + (await region.boundingBox())!.height
  for (let i = 0; i < 10; i++) {
    const caller = region.getByRole('listitem').filter({ hasText: `Hargreaves ${i}` })
    const box = (await caller.boundingBox())!
    expect(box.y + box.height).toBeLessThanOrEqual(bottom)
    const number = caller.getByText(`020 7946 010${i}`)
    await expect(number).toBeVisible()
    for (const whole of [number, caller.getByRole('button', { name: /^The story of/ })])
      expect(await whole.evaluate(element => element.scrollWidth - element.clientWidth)).toBeLessThanOrEqual(0)
  }
})

test('what the pointer rests on stays: a more urgent caller does not slide under it, and who gives up leaves a gap', async ({ console, stage }) => {
  const { cast } = stage
  const calls = []
  for (const name of ['Anna', 'Berta', 'Clara']) calls.push(await cast.ring(`${name} Waiting`))
  const answer = console.getByRole('button', { name: 'Answer Clara Waiting' })
  await answer.hover()
  const before = await answer.boundingBox()
  await cast.hangUp(calls[1]!)
  await expect(console.getByRole('region', { name: 'Arriving' }).getByText(/^Berta Waiting gave up after/)).toBeVisible()
  // The directors' line promises an answer sooner than the general line.
  await cast.ring('Directors Caller', { to: '+441632960030' })
  await expect(ribbon(console, 'Arriving', 'Directors Caller')).toBeVisible()
  expect(await answer.boundingBox()).toEqual(before)
  await answer.click()
  await expect(ribbon(console, 'In hand', 'Clara Waiting')).toBeVisible()
  await expect(console.getByText('Nobody is waiting.')).toBeHidden()
  await console.mouse.move(640, 700)
  await expect(console.getByRole('region', { name: 'Arriving' }).getByText(/^Berta Waiting gave up after/)).toBeHidden()
})

test('the line between track and floor is moved by mouse and by keyboard, to its ends, and remembered for the person', async ({ console, stage, browser }) => {
  const splitter = console.getByRole('separator', { name: 'Height of the track' })
  const height = async (page: Page) => Number(await page.getByRole('separator', { name: 'Height of the track' }).getAttribute('aria-valuenow'))
  const designed = await height(console)
  const kept = console.waitForResponse(response => response.url().endsWith('/api/preferences') && response.request().method() === 'PATCH')
  await splitter.focus()
  await console.keyboard.press('ArrowDown')
  expect(await height(console)).toBeGreaterThan(designed)
  expect((await kept).status()).toBe(200)
  const other = await stage.open(browser, 'ines')
  await expect.poll(() => height(other)).toBe(await height(console))

  await splitter.focus()
  await console.keyboard.press('End')
  await expect(console.getByRole('combobox', { name: 'Who is it for?' })).toBeInViewport()
  await expect(console.getByRole('button', { name: /^Front desk/ })).toBeInViewport()
  await console.keyboard.press('Home')
  await stage.cast.ring('Squeezed Caller')
  await expect(console.getByRole('button', { name: 'Answer Squeezed Caller' })).toBeInViewport()
  const { x, y, width } = (await splitter.boundingBox())!
  await console.mouse.move(x + width / 2, y + 2)
  await console.mouse.down()
  await console.mouse.move(x + width / 2, y + 90, { steps: 4 })
  await console.mouse.up()
  expect(await height(console)).toBeGreaterThan(designed - 90)
  // Another console that is open keeps its own size.
  expect(await height(other)).toBe(designed + 16)
  await splitter.dblclick()
  await expect.poll(() => height(console)).toBe(designed)
  await expect.poll(async () => (await stage.sql<{ kept: { track: number | null } }>('select kept from preferences'))[0]?.kept.track).toBeNull()
  await other.context().close()
})

test('one key each: everybody in sight in names, larger windows and rooms; the side panel away and back, remembered', async ({ console }) => {
  const window = console.getByRole('button', { name: /^Marit Upwater\./ })
  await console.keyboard.press('-')
  await expect(console.getByRole('complementary', { name: 'The call in question' })).toBeHidden()
  const hidden = await console.evaluate(() => Array.from(document.querySelectorAll('.window')).filter((element) => {
    const { bottom, right } = element.getBoundingClientRect()
    return bottom > innerHeight || right > innerWidth
  }).length)
  expect(hidden).toBe(0)
  expect(await console.locator('.window').count()).toBe(182)
  const cut = await console.evaluate(() => Array.from(document.querySelectorAll('.window .name')).filter((element) => {
    const { right } = element.getBoundingClientRect()
    return right > element.parentElement!.getBoundingClientRect().right + 1
  }).length)
  expect(cut).toBe(0)
  const heightOf = async () => (await window.boundingBox())!.height
  const names = await heightOf()
  await console.keyboard.press('/')
  await expect(window).toContainText('Galley')
  const windows = await heightOf()
  const kept = console.waitForResponse(response => response.url().endsWith('/api/preferences'))
  await console.keyboard.press('/')
  await expect(window).toContainText('A274')
  expect(await heightOf()).toBeGreaterThan(windows)
  expect(windows).toBeGreaterThan(names)
  await kept
  await console.reload()
  await expect(window).toContainText('A274')
  await expect(console.getByRole('complementary', { name: 'The call in question' })).toBeHidden()
  const designed = console.waitForResponse(response => response.request().method() === 'PATCH')
  await console.keyboard.press('/')
  await console.keyboard.press('-')
  await expect(console.getByRole('complementary', { name: 'The call in question' })).toBeVisible()
  await designed
})

test('the side panel tells the story of the call in hand and the caller\'s earlier calls', async ({ console, stage }) => {
  const from = '+441632960777'
  await stage.cast.hangUp(await stage.cast.ring('Regular Caller', { from }))
  await expect.poll(async () => (await stage.sql(`select 1 from call_record where number = '${from}' and outcome = 'missed'`)).length).toBe(1)
  await stage.cast.ring('Regular Caller', { from })
  const panel = console.getByRole('complementary', { name: 'The call in question' })
  await expect(panel.getByRole('heading', { name: 'Regular Caller' })).toBeVisible()
  await expect(panel.getByText('Missed: nobody answered')).toBeVisible()
  await console.getByRole('button', { name: 'answers Regular Caller' }).waitFor()
  await console.keyboard.press('Enter')
  await expect(panel.getByText('Ines Quillfeather answered')).toBeVisible()

  // While somebody is being named, it is about them: how it is with them, and who else there is free.
  await console.getByRole('combobox', { name: 'Who is it for?' }).focus()
  const asked = stage.cast.state.company.telephones.t2110!
  await console.keyboard.type(asked.name)
  const card = console.getByRole('complementary', { name: `About ${asked.name}` })
  await expect(card).toContainText('Reservations')
  await expect(card.getByRole('list', { name: 'Free in Reservations' }).getByRole('button')).toHaveCount(4)
  await console.keyboard.press('Escape')
  await expect(console.getByRole('complementary', { name: 'The call in question' })).toBeVisible()
})

test('on every page the calls stay in one band, with their keys; what is typed into a form stays in the form', async ({ console, stage }) => {
  await stage.cast.ring('Band Caller')
  await console.getByRole('link', { name: 'Call log' }).click()
  const band = console.getByRole('region', { name: 'Calls' })
  await expect(band).toContainText('Band Caller waiting')
  const filter = console.getByLabel('Filter by number, name or extension')
  await filter.click()
  await console.keyboard.type('Qu ')
  await console.keyboard.press('Enter')
  await expect(filter).toHaveValue('Qu ')
  await expect(band).toContainText('Band Caller waiting')
  await console.keyboard.press('Alt+Enter')
  await expect(band).toContainText('Band Caller in hand')
  await expect(filter).toHaveValue('Qu ')
  await band.focus()
  await console.keyboard.press('Space')
  await expect(band).toContainText('Band Caller on hold')
  await band.getByRole('button', { name: 'All calls' }).click()
  await expect(band.getByRole('region', { name: 'In hand' }).getByRole('button', { name: 'Take back Band Caller' })).toBeVisible()
  await console.keyboard.press('Escape')
  await expect(band.getByRole('region', { name: 'In hand' })).toBeHidden()
  await band.getByRole('button', { name: 'Take back Band Caller' }).click()
  await expect(band).toContainText('Band Caller in hand')
})

test('forty callers at once, long, backward and nameless names: all counted, none over another, the next one whole', async ({ console, stage }) => {
  const names = ['x'.repeat(80), 'Wolfeschlegelsteinhausenbergerdorff '.repeat(2).trim(), '\u05E9\u05DC\u05D5\u05DD \u05E2\u05D5\u05DC\u05DD', null]
  for (let i = 0; i < 40; i++) await stage.cast.ring(names[i % 4]!, { from: i % 8 === 3 ? null : `+4477009001${10 + i}`, trunk: i % 2 ? 'west' : 'east' })
  await expect(console.getByRole('heading', { name: /^Arriving 40 3[01] more, longest/ })).toBeVisible()
  const overlapping = await console.evaluate(() => {
    const rows = Array.from(document.querySelectorAll('.arriving .line')).map(row => row.getBoundingClientRect())
    return rows.filter((row, index) => index > 0 && row.top < rows[index - 1]!.bottom - 0.5).length
  })
  expect(overlapping).toBe(0)
  await expect(console.getByRole('button', { name: /^Answer/ }).first()).toBeInViewport({ ratio: 1 })
  await console.setViewportSize({ width: 380, height: 800 })
  await expect(console.getByRole('button', { name: /^Answer/ }).first()).toBeInViewport({ ratio: 1 })
  expect(await console.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(380)
  await console.keyboard.press('Enter')
  await console.setViewportSize({ width: 640, height: 400 })
  await expect(console.getByRole('button', { name: /^Hold/ })).toBeInViewport({ ratio: 1 })
  await expect(console.getByRole('button', { name: /^Answer/ }).first()).toBeInViewport({ ratio: 1 })
})

test('a double click answers one caller: the next one does not slide under the pointer', async ({ console, stage }) => {
  const calls = []
  for (const name of ['Double First', 'Double Second', 'Double Third']) calls.push(await stage.cast.ring(name))
  await console.getByRole('button', { name: 'Answer Double First' }).dblclick()
  await expect(ribbon(console, 'In hand', 'Double First')).toContainText('talking')
  await console.getByRole('button', { name: 'Answer Double Second' }).dblclick()
  await expect(ribbon(console, 'In hand', 'Double Second')).toContainText('talking')
  await expect(ribbon(console, 'Arriving', 'Double Third')).toBeVisible()
  await expect(ribbon(console, 'In hand', 'Double First')).toContainText('on hold')
})

test('a ribbon that changes its stretch takes its open menu away with it, and the keyboard is where it was', async ({ console, stage }) => {
  const call = await stage.cast.ring('Menu Caller')
  await stage.cast.ring('Other Caller')
  await console.getByRole('button', { name: 'More for Menu Caller' }).click()
  const voicemail = console.getByRole('menuitem', { name: 'To voicemail' })
  await expect(voicemail).toBeVisible()
  await stage.cast.ask({ service: 'answerCall', device: 't2100', call })
  await expect(ribbon(console, 'In hand', 'Menu Caller')).toContainText('talking')
  await expect(voicemail).toBeHidden()
  await expect(ribbon(console, 'Arriving', 'Other Caller')).toBeVisible()
  await expect(console.getByRole('combobox', { name: 'Who is it for?' })).toBeFocused()
  await console.keyboard.press('Space')
  await expect(ribbon(console, 'In hand', 'Menu Caller')).toContainText('on hold')
})

test('a message is written on another page while a call arrives: Enter belongs to the form, and the caller waits in sight', async ({ console, stage }) => {
  await console.getByRole('link', { name: /^Messages/ }).click()
  await console.getByRole('button', { name: 'Write one…' }).click()
  const form = console.getByRole('dialog', { name: 'Take a message' })
  await form.getByRole('combobox', { name: 'For whom' }).fill('2150')
  await console.getByRole('option').first().click()
  await form.getByLabel('Who called').fill('Written Caller')
  await form.getByLabel('What about').pressSequentially('The lamps')
  await stage.cast.ring('Arriving Meanwhile')
  const band = console.getByRole('region', { name: 'Calls' })
  await expect(band).toContainText('Arriving Meanwhile waiting')
  await console.keyboard.press('Enter')
  await console.keyboard.type('are here. ')
  await expect(form.getByLabel('What about')).toHaveValue('The lamps\nare here. ')
  await expect(band).toContainText('Arriving Meanwhile waiting')
  await form.getByLabel('Who called').press('Enter')
  await expect(form).toBeHidden()
  await expect(console.getByRole('region', { name: 'Taken down by you' })).toContainText('The lamps are here.')
  await expect(band).toContainText('Arriving Meanwhile waiting')
  await console.keyboard.press('Alt+Enter')
  await expect(band).toContainText('Arriving Meanwhile in hand')
})
