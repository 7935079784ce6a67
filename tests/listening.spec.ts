import AxeBuilder from '@axe-core/playwright'
import { expect, name, ribbon, test } from './stage'

test('whoever may listens to a colleague, whispers, and joins, by keys alone; it stands in the call\'s story', async ({ stage, browser, console }) => {
  const { cast } = stage
  const supervisor = await stage.open(browser, 'bryony')
  const bar = supervisor.getByRole('region', { name: 'What you listen to' })
  const log = supervisor.getByRole('log', { name: 'What happens' })
  const call = await cast.ring('Odette Farrowgate')
  await console.getByRole('button', { name: 'Answer Odette Farrowgate' }).click()

  await name(supervisor, 'Ines Quillfeather')
  await expect(supervisor.getByRole('button', { name: /^Listen in/ })).toBeVisible()
  await supervisor.keyboard.press('Control+F2')
  await expect(bar).toContainText('You listen to Ines Quillfeather with Odette Farrowgate')
  await expect(bar).toContainText('Nobody hears you.')
  await expect(log).toContainText('You listen to Ines Quillfeather. Nobody hears you.')
  await cast.say(call, 'My lorry waits at the gate')
  await expect(bar).toContainText('“My lorry waits at the gate”')
  expect((await new AxeBuilder({ page: supervisor }).include('.lower-bars').analyze()).violations).toEqual([])

  await supervisor.keyboard.press('F2')
  await expect(bar).toContainText('Ines Quillfeather hears you, and nobody else.')
  await expect(bar.getByRole('button', { name: 'Whisper' })).toHaveAttribute('aria-pressed', 'true')
  await expect(console.getByRole('log', { name: 'What happens' })).toContainText('Bryony Lusk whispers to you: only you hear it')
  await supervisor.keyboard.press('F2')
  await expect(bar).toContainText('Nobody hears you.')

  await supervisor.keyboard.press('F8')
  await expect(bar).toBeHidden()
  await expect(ribbon(supervisor, 'In hand', 'Conference')).toContainText('Ines Quillfeather')
  await expect(ribbon(console, 'In hand', 'Conference')).toContainText('Bryony Lusk')
  const story = cast.state.calls.get(call)!.story.map(({ type }) => type)
  expect(story.slice(-5)).toEqual(['listeningBegun', 'whisperBegun', 'whisperEnded', 'listeningEnded', 'intruded'])
})

test('by mouse from the watch page; it is over when the caller goes, and is for nobody without the right', async ({ stage, browser, console }) => {
  const { cast } = stage
  const supervisor = await stage.open(browser, 'bryony')
  const call = await cast.ring('Casimir Oldroyd')
  await console.getByRole('button', { name: 'Answer Casimir Oldroyd' }).click()
  await supervisor.goto('/watch')
  await supervisor.getByRole('region', { name: 'Operators' }).getByRole('button', { name: 'Casimir Oldroyd' }).click()
  const panel = supervisor.getByRole('complementary', { name: 'The chosen call' })
  await panel.getByRole('button', { name: 'Listen to Ines Quillfeather' }).click()
  const bar = supervisor.getByRole('region', { name: 'What you listen to' })
  await expect(bar).toContainText('with Casimir Oldroyd')
  await expect(panel).toContainText('Bryony Lusk listened in, at Ines Quillfeather')
  await expect(panel.getByRole('button', { name: 'Listen to Ines Quillfeather' })).toBeHidden()
  await cast.hangUp(call)
  await expect(bar).toBeHidden()
  await expect(supervisor.getByRole('log', { name: 'What happens' })).toContainText('You listen no more')

  const other = await cast.ring('Casimir Oldroyd')
  const tomas = await stage.open(browser, 'tomas')
  await tomas.getByRole('button', { name: 'Answer Casimir Oldroyd' }).click()
  await name(console, 'Tomas Arkwell')
  await expect(console.getByRole('button', { name: /^Speak at once/ })).toBeVisible()
  await expect(console.getByRole('button', { name: /^Listen in/ })).toHaveCount(0)
  const refused = await console.request.post('/api/requests', {
    data: { id: crypto.randomUUID(), device: 't2100', service: 'listenIn', call: other, to: 't2101' },
  })
  expect([refused.status(), (await refused.json()).message]).toEqual([409, expect.stringMatching(/^You may not listen to calls/)])
})
