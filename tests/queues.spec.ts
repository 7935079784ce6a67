import type { Route } from '@playwright/test'
import { expect, name, ribbon, test } from './stage'

test('queues at a glance; one is opened, a chosen caller answered, another carried to a person; the floor shows its members', async ({ console, stage }) => {
  const { cast } = stage
  const members = cast.state.company.groups['queue:freight']!.members
  const freight = console.getByRole('region', { name: 'Queues' }).getByRole('button', { name: /^Freight queue/ })
  await expect(freight).toHaveAccessibleName(/^Freight queue: nobody waits; \d+ free, 0 talking, \d+ away$/)
  for (const who of ['Queued First', 'Queued Second', 'Queued Third']) {
    const call = await cast.ring(who)
    await cast.ask({ service: 'answerCall', device: 't2101', call })
    await cast.ask({ service: 'singleStepTransferCall', device: 't2101', call, to: 'queue:freight' })
  }
  await expect(freight).toHaveAccessibleName(/^Freight queue: 3 waiting, the longest \d+:\d\d; /)

  // By key: every queue in turn, said as it opens.
  const panel = console.getByRole('complementary', { name: 'Freight queue' })
  await console.keyboard.press('=')
  await expect(console.getByRole('log', { name: 'What happens' })).toContainText('Reservations queue: nobody waits')
  await console.keyboard.press('=')
  const waits = panel.getByRole('list', { name: 'Who waits' }).getByRole('listitem').filter({ has: console.getByRole('button') })
  await expect(waits).toHaveCount(3)
  await expect(waits.first()).toContainText('Queued First')
  await expect(waits.first()).toContainText('from Tomas Arkwell')
  await panel.getByRole('button', { name: 'Answer Queued Second from the Freight queue' }).click()
  await expect(ribbon(console, 'In hand', 'Queued Second')).toContainText('talking')
  await expect(waits).toHaveCount(2)
  // Nobody moves under the hand that has just pressed.
  await expect(panel.getByText('Does not wait here any more.')).toBeVisible()

  // To a person who does not serve it.
  const person = cast.state.company.telephones.t2105!
  await panel.getByRole('button', { name: 'Carry Queued First out of the Freight queue' }).click()
  await console.getByRole('combobox', { name: 'Who is it for?' }).focus()
  await name(console, person.name)
  await console.keyboard.press('Enter')
  await expect(ribbon(console, 'Passed on', 'Queued First')).toContainText(`rings at ${person.name}`)
  await expect(waits).toHaveCount(1)
  await expect(ribbon(console, 'In hand', 'Queued Second')).toContainText('talking')

  // Its members only, and everybody again.
  const windows = console.getByRole('region', { name: /^Everybody/ }).locator('.window')
  const everybody = await windows.count()
  await console.getByRole('combobox', { name: 'Who is it for?' }).focus()
  await console.keyboard.press(';')
  await expect(windows).toHaveCount(members.length)
  await expect(console.getByText('Only who serves the Freight queue')).toBeVisible()
  await console.keyboard.press(';')
  await expect(windows).toHaveCount(everybody)

  // A member is given a pause, says at their own telephone that they serve again, and takes who waits there.
  const member = cast.state.company.telephones[members[1]!]!
  await panel.getByRole('button', { name: `${member.name}: pause or serve` }).click()
  await console.getByRole('menuitem', { name: 'Pause: Paperwork' }).click()
  await expect(freight).toHaveAccessibleName(/ 1 paused, /)
  await expect(panel.getByRole('listitem').filter({ hasText: member.name })).toContainText(/paused \d:\d\d: Paperwork/)
  const handset = await console.context().newPage()
  await handset.goto(`/handset?of=${member.id}`)
  const own = handset.getByRole('region', { name: 'Freight queue' })
  await expect(own).toContainText('Paperwork')
  await own.getByRole('button', { name: /pause or serve$/ }).click()
  await handset.getByRole('menuitem', { name: 'Serve again' }).click()
  await expect(own).toContainText('Freight queue: serving')
  await own.getByRole('button', { name: /^Take Queued Third, waiting/ }).click()
  await expect(handset.getByRole('article', { name: 'Call with Queued Third' })).toContainText('talking')
  await handset.close()
  await panel.getByRole('button', { name: 'Close', exact: true }).click()
  await expect(console.getByRole('complementary', { name: 'The call in question' })).toBeVisible()
})

test('a queue with nobody to answer says so', async ({ console, stage }) => {
  const { cast } = stage
  const members = cast.state.company.groups['queue:lostProperty']!.members.filter(member => cast.state.company.telephones[member]!.inService)
  const all = async (on: boolean) => {
    for (const device of members) await cast.ask({ service: 'setDoNotDisturb', device, on, until: null })
  }
  const queue = console.getByRole('region', { name: 'Queues' }).getByRole('button', { name: /^Lost property queue/ })
  await all(true)
  await expect(queue).toHaveAccessibleName('Lost property queue: nobody waits; nobody there to answer')
  await queue.click()
  await expect(console.getByText('Nobody is there to answer: whoever is sent here goes on at once.')).toBeVisible()
  await all(false)
  await expect(queue).toHaveAccessibleName(/free/)

  // Closed by hand, and open again; a closed line is plain to see on every console.
  await console.getByRole('button', { name: 'Close the Lost property queue' }).click()
  const dialog = console.getByRole('dialog', { name: 'Close the Lost property queue' })
  await expect(dialog).toContainText('The Lost property desk is closed.')
  await dialog.getByLabel('Until (empty: until somebody opens it)').fill('25 o\'clock')
  await dialog.getByRole('button', { name: 'Close the Lost property queue' }).click()
  await expect(dialog.getByRole('alert')).toContainText('Until: "25 o\'clock" is no time of the day.')
  await dialog.getByLabel('Until (empty: until somebody opens it)').fill('23:59')
  await dialog.getByLabel(/^Callers go to: /).fill('Freight q')
  await console.getByRole('option', { name: 'Freight queue' }).click()
  await dialog.getByRole('button', { name: 'Close the Lost property queue' }).click()
  await expect(queue).toHaveAccessibleName(/^Lost property queue \(closed\): /)
  await expect(console.getByRole('complementary', { name: 'Lost property queue' }))
    .toContainText(/closed until (tomorrow )?\w*\s?23:59, by Ines Quillfeather: callers go to Freight queue/)
  await expect(console.getByRole('log', { name: 'What happens' })).toContainText('The Lost property queue is closed')
  await console.getByRole('button', { name: 'Open the Lost property queue' }).click()
  await expect(queue).toHaveAccessibleName(/^Lost property queue: /)
  await cast.ask({ service: 'setOpening', device: 't2101', of: 'freight', open: false, until: null })
  await expect(console.getByRole('button', { name: /^Lines served: 4 of 4; Freight line: closed, by Tomas Arkwell/ })).toHaveText('1 closed')
  await console.getByRole('button', { name: /^Lines served/ }).click()
  await console.getByRole('menuitem', { name: /^Freight line: closed, by Tomas Arkwell/ }).click()
  await expect(console.getByRole('button', { name: 'Lines served: 4 of 4', exact: true })).toHaveText('Lines 4 of 4')
})

test('two operators take one caller out of a queue: one of them has the caller, the other is told', async ({ console, stage, browser }) => {
  const { cast } = stage
  const call = await cast.ring('Wanted By Two')
  await cast.ask({ service: 'answerCall', device: 't2102', call })
  await cast.ask({ service: 'singleStepTransferCall', device: 't2102', call, to: 'queue:freight' })
  const tomas = await stage.open(browser, 'tomas')
  const answers = []
  for (const page of [console, tomas]) {
    await page.getByRole('region', { name: 'Queues' }).getByRole('button', { name: /^Freight queue: 1 waiting/ }).click()
    answers.push(page.getByRole('button', { name: 'Answer Wanted By Two from the Freight queue' }))
  }
  // Both have asked before either can have heard of the other.
  const asked: Route[] = []
  for (const page of [console, tomas]) await page.route('**/api/requests', route => void asked.push(route))
  for (const button of answers) await button.click()
  await expect.poll(() => asked.length).toBe(2)
  await Promise.all(asked.map(route => route.continue()))
  await expect.poll(() => cast.state.calls.get(call)?.connections.filter(({ state }) => state === 'connected').length).toBe(2)
  const holders = ['t2100', 't2101'].filter(device => cast.state.calls.get(call)!.connections.some(connection => connection.device === device))
  expect(holders).toHaveLength(1)
  const other = holders[0] === 't2100' ? tomas : console
  await expect(other.getByText(/That call is with .+ now\./).first()).toBeVisible()
  await console.unroute('**/api/requests')
  await tomas.context().close()
})

test('a queue rings its members; who lets calls ring is paused, which is said; who waits is put first, or sent to operators', async ({ console, stage }) => {
  const { cast } = stage
  const queue = 'queue:lostProperty'
  const [first, next] = cast.state.company.groups[queue]!.members.map(member => cast.state.company.telephones[member]!)
  const calls: string[] = []
  for (const who of ['Umbrella Owner', 'Hat Owner', 'Glove Owner']) {
    const call = await cast.ring(who)
    calls.push(call)
    await cast.ask({ service: 'answerCall', device: 't2101', call })
    await cast.ask({ service: 'singleStepTransferCall', device: 't2101', call, to: queue })
  }
  const tile = console.getByRole('region', { name: 'Queues' }).getByRole('button', { name: /^Lost property queue: 3 waiting/ })
  await tile.click()
  const panel = console.getByRole('complementary', { name: 'Lost property queue' })
  await expect(panel).toContainText('Rings its members in their order, 0:15 each')
  const waits = panel.getByRole('list', { name: 'Who waits' }).getByRole('listitem').filter({ has: console.getByRole('button') })
  await expect(waits.filter({ hasText: 'Umbrella Owner' })).toContainText(`rings at ${first!.name}`)

  await panel.getByRole('button', { name: 'Put Glove Owner first' }).click()
  await expect(waits.first()).toContainText('Glove Owner')
  await panel.getByRole('button', { name: 'Send Glove Owner to the operators' }).click()
  await expect(ribbon(console, 'Passed on', 'Glove Owner')).toContainText('waits in the Operators')
  await expect(waits).toHaveCount(2)

  const handset = await console.context().newPage()
  await handset.goto(`/handset?of=${next!.id}`)
  const rings = handset.getByRole('article', { name: /^Call with (Umbrella|Hat) Owner$/ })
  await expect(rings).toContainText('rings for the Lost property queue')
  // The first member lets two calls ring, and is paused: everybody who operates hears of it.
  await expect(console.getByRole('log', { name: 'What happens' }))
    .toContainText(`${first!.name} let calls ring and no longer serves the Lost property queue`, { timeout: 60_000 })
  await expect(panel.getByRole('listitem').filter({ hasText: first!.name }).last()).toContainText('Let calls ring')
  await handset.getByRole('button', { name: 'Answer' }).first().click()
  await expect(handset.getByRole('article', { name: /^Call with (Umbrella|Hat) Owner$/ }).first()).toContainText('talking')
  await handset.close()
})

test('a trunk is taken out of service: calls on it go on; that nobody can call out when it was the last is said and in sight', async ({ console, stage }) => {
  const { cast } = stage
  const call = await cast.ring('On The Trunk')
  await expect(ribbon(console, 'Arriving', 'On The Trunk')).toBeVisible()
  await cast.ask({ service: 'answerCall', device: 't2101', call })
  await console.getByRole('link', { name: 'Outside' }).click()
  const trunks = console.getByRole('region', { name: 'Trunks' })
  await expect(trunks.getByRole('listitem').filter({ hasText: 'Trunk east' })).toContainText('1 of 21 channels in use, 19 free, 1 kept for emergencies')
  for (const trunk of ['east', 'west']) await trunks.getByRole('button', { name: `Take trunk ${trunk} out of service` }).click()
  await expect(trunks.getByRole('listitem').filter({ hasText: 'Trunk west' })).toContainText(/Out of service for \d:\d\d, by Ines Quillfeather/)
  await expect(console.getByRole('log', { name: 'What happens' })).toContainText('Trunk west is out of service. Every line to the outside is in use')
  await expect(console.getByRole('button', { name: /every line to the outside is in use$/ })).toHaveText('All in use')
  await expect(console.getByRole('link', { name: 'Outside, 2 in trouble' })).toBeVisible()
  expect(cast.state.calls.get(call)!.connections).toHaveLength(2)
  for (const trunk of ['east', 'west']) await trunks.getByRole('button', { name: `Put trunk ${trunk} back into service` }).click()
  await expect(console.getByRole('button', { name: 'Lines served: 4 of 4', exact: true })).toBeVisible()
})
