import { writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import AxeBuilder from '@axe-core/playwright'
import { chromium, type Browser, type Page } from '@playwright/test'
import { heightOf } from '../core/sound/tone'
import { alone, expect, name, ribbon, signedIn, type Stage } from './stage'

/** People talk: each has a tone for a voice, and at every ear it is measured whose can be heard. */

// Its module is written for bundlers.
const { WaveFile } = createRequire(import.meta.url)('wavefile') as typeof import('wavefile')

const test = alone({ sound: true })
const silent = alone({ demo: true, serverEnv: { NUXT_DEMO: 'false' } })

const [operatorsVoice, callersVoice, ringing] = [620, 1_000, 400]

/** A browser whose microphone gives a tone. */
async function speaking(hertz: number, path: string): Promise<Browser> {
  const rate = 48_000
  const wav = new WaveFile()
  wav.fromScratch(1, rate, '16', Array.from({ length: rate * 10 }, (_, at) => Math.round(9_000 * Math.sin(2 * Math.PI * hertz * at / rate))))
  writeFileSync(path, wav.toBuffer())
  return await chromium.launch({
    executablePath: process.env.CHROMIUM,
    args: [
      '--no-sandbox', '--disable-gpu', '--use-fake-device-for-media-stream', '--use-fake-ui-for-media-stream', `--use-file-for-fake-audio-capture=${path}`,
    ],
  })
}

/** Whatever a page hears can be measured from now on. */
async function measured(page: Page): Promise<Page> {
  await page.addInitScript(() => {
    const told = window as unknown as { ear: AnalyserNode | null }
    told.ear = null
    const setRemoteDescription = RTCPeerConnection.prototype.setRemoteDescription as (given: RTCSessionDescriptionInit) => Promise<void>
    RTCPeerConnection.prototype.setRemoteDescription = function (this: RTCPeerConnection, given: RTCSessionDescriptionInit) {
      this.addEventListener('track', ({ track }) => {
        const audio = new AudioContext()
        told.ear = audio.createAnalyser()
        told.ear.fftSize = 8_192
        audio.createMediaStreamSource(new MediaStream([track])).connect(told.ear)
      })
      return setRemoteDescription.call(this, given)
    }
  })
  return page
}

async function samplesAt(page: Page): Promise<{ rate: number, samples: Float32Array }> {
  const { rate, samples } = await page.evaluate(() => {
    const { ear } = window as unknown as { ear: AnalyserNode | null }
    const samples = new Float32Array(ear?.fftSize ?? 0)
    ear?.getFloatTimeDomainData(samples)
    return { rate: ear?.context.sampleRate ?? 1, samples: [...samples] }
  })
  return { rate, samples: Float32Array.from(samples) }
}

/** Which of some frequencies are in what a page hears at this moment. */
async function heard(page: Page, ...frequencies: number[]): Promise<number[]> {
  const { rate, samples } = await samplesAt(page)
  return samples.length ? frequencies.filter(hertz => heightOf(hertz, samples, rate) > 0.003) : []
}
const all = [ringing, operatorsVoice, callersVoice] as const
const hears = (page: Page, ...expected: number[]) => expect.poll(() => heard(page, ...all)).toEqual(expected)
/** How loud it is there, whatever it is: from 0 to 1. */
async function loudness(page: Page): Promise<number> {
  const { samples } = await samplesAt(page)
  return Math.max(0, ...samples.map(Math.abs))
}

async function turnOn(console: Page): Promise<void> {
  await console.getByRole('button', { name: 'Talking by this browser: off' }).click()
  const sheet = console.getByRole('dialog', { name: 'Sound' })
  await sheet.getByText('Talk and hear by this browser').click()
  await expect(sheet).toContainText('You hear your calls, and are heard while you talk.')
  await console.keyboard.press('Escape')
  await expect(console.getByRole('button', { name: 'Talking by this browser: on' })).toBeVisible()
}

/** An operator at a console and a caller at the stand-in telephone outside, each in a browser with a voice of its own. */
async function people(own: Stage, folder: (name: string) => string) {
  const [low, high] = await Promise.all([speaking(operatorsVoice, folder('low.wav')), speaking(callersVoice, folder('high.wav'))])
  const [console, caller] = await Promise.all([own.open(low, 'ines').then(measured), own.open(high, 'tomas').then(measured)])
  await console.reload()
  await turnOn(console)
  await caller.goto('/handset?of=outside')
  const outside = caller.getByRole('region', { name: 'Telephone outside' })
  await outside.getByRole('button', { name: 'Talk here' }).click()
  return { console, caller, outside, home: () => Promise.all([low.close(), high.close()]) }
}

async function inHand({ console, outside }: { console: Page, outside: ReturnType<Page['getByRole']> }): Promise<void> {
  await outside.getByRole('button', { name: 'Call', exact: true }).click()
  await ribbon(console, 'Arriving', 'Odette').getByRole('button', { name: 'Answer' }).click()
  await expect(ribbon(console, 'In hand', 'Odette')).toBeVisible()
}

test('a caller and an operator hear each other: only while they talk, and not whoever is muted; another microphone in mid-call', async ({ own }, info) => {
  const cast = await people(own, info.outputPath.bind(info))
  const { console, caller, outside } = cast
  await outside.getByRole('button', { name: 'Call', exact: true }).click()
  await hears(caller, ringing)
  await ribbon(console, 'Arriving', 'Odette').getByRole('button', { name: 'Answer' }).click()
  await hears(caller, operatorsVoice)
  await hears(console, callersVoice)

  await console.keyboard.press('Space')
  await expect(outside).toContainText('Music: you are on hold.')
  await hears(caller)
  await expect.poll(() => loudness(caller)).toBeGreaterThan(0.03)
  await hears(console)
  await console.keyboard.press('Space')
  await hears(caller, operatorsVoice)

  const [call] = own.cast.state.calls.keys()
  const mute = (on: boolean) => own.cast.ask({ service: 'setMicrophoneMute', device: 't2100', party: 't2100', call: call!, on })
  await mute(true)
  await hears(caller)
  await hears(console, callersVoice)
  await mute(false)
  await console.getByRole('button', { name: 'Talking by this browser: on' }).click()
  const sheet = console.getByRole('dialog', { name: 'Sound' })
  await expect(sheet.getByRole('meter', { name: 'Level of what is heard' })).not.toHaveAttribute('aria-valuetext', 'silent')
  await sheet.getByRole('combobox', { name: 'Speak into' }).press('Enter')
  await console.getByRole('option', { name: /^Fake Audio Input 2/ }).click()
  await hears(caller, operatorsVoice)
  await console.keyboard.press('Escape')

  // Handed on, the caller is with somebody else, and no longer in the operator's ear.
  await expect(console.getByRole('combobox', { name: 'Who is it for?' })).toBeFocused()
  await name(console, '2110')
  await console.keyboard.press('Enter')
  await hears(caller, ringing)
  await hears(console)
  await own.cast.answer('t2110', await own.cast.ringingAt('t2110'))
  await hears(caller)
  await cast.home()
})

test('the sound process is killed, and frozen: it is said, and everybody is heard again; a server that ends takes no voice with it', async ({ own }, info) => {
  const cast = await people(own, info.outputPath.bind(info))
  const { console, caller } = cast
  await inHand(cast)
  await hears(caller, operatorsVoice)
  const told = console.getByRole('log', { name: 'What happens' })
  const keeper = await signedIn(own.url, 'admin')
  const soundNow = async () => (await (await keeper.get('/api/upkeep')).json() as { sound: object }).sound
  expect(await soundNow()).toEqual({ here: true, process: { exchange: 'up', speech: 'up' } })

  own.stack.sound!.kill('SIGKILL')
  await expect(console.getByRole('button', { name: 'Talking by this browser: lost' })).toBeVisible()
  expect(await soundNow()).toEqual({ here: true, process: null })
  await expect(told).toContainText('Sound is lost. Calls go on, and it is tried again.')
  await expect(ribbon(console, 'In hand', 'Odette')).toBeVisible()
  await own.stack.startSound()
  await hears(caller, operatorsVoice)
  await hears(console, callersVoice)
  await expect(told).toContainText('Sound is back.')

  own.stack.sound!.kill('SIGSTOP')
  await expect(console.getByRole('button', { name: 'Talking by this browser: lost' })).toBeVisible()
  own.stack.sound!.kill('SIGCONT')
  await hears(caller, operatorsVoice)
  await hears(console, callersVoice)

  own.stack.server!.kill('SIGKILL')
  await expect(console.getByRole('alert').filter({ hasText: 'No connection to the server' })).toBeVisible()
  expect([await heard(caller, ...all), await heard(console, ...all)]).toEqual([[operatorsVoice], [callersVoice]])
  await own.stack.startServer()
  await expect(console.getByRole('alert').filter({ hasText: 'No connection to the server' })).toBeHidden()
  await hears(caller, operatorsVoice)

  // The page is loaded again in the middle of the call.
  await console.reload()
  await hears(console, callersVoice)
  await hears(caller, operatorsVoice)
  await cast.home()
})

test('whoever listens in hears both and is heard by neither; a whisper is heard by the colleague alone', async ({ own }, info) => {
  const cast = await people(own, info.outputPath.bind(info))
  const whisperersVoice = 1_500
  const third = await speaking(whisperersVoice, info.outputPath('third.wav'))
  const supervisor = await measured(await own.open(third, 'bryony'))
  await supervisor.reload()
  await turnOn(supervisor)
  await inHand(cast)
  await name(supervisor, 'Ines Quillfeather')
  await supervisor.keyboard.press('Control+F2')
  const three = (page: Page, ...expected: number[]) => expect.poll(() => heard(page, operatorsVoice, callersVoice, whisperersVoice)).toEqual(expected)
  await three(supervisor, operatorsVoice, callersVoice)
  await three(cast.console, callersVoice)
  await three(cast.caller, operatorsVoice)
  await supervisor.keyboard.press('F2')
  await three(cast.console, callersVoice, whisperersVoice)
  await three(cast.caller, operatorsVoice)
  await supervisor.keyboard.press('F8')
  await three(cast.caller, operatorsVoice, whisperersVoice)
  await Promise.all([cast.home(), third.close()])
})

test('a call is recorded by a key: everybody is told, and whoever has the right finds, hears, notes and deletes it', async ({ own, browser }, info) => {
  const cast = await people(own, info.outputPath.bind(info))
  const { console } = cast
  const supervisor = await own.open(browser, 'bryony')
  await supervisor.goto('/recordings')
  await expect(supervisor.getByText('No call has been recorded.')).toBeVisible()
  await inHand(cast)
  await hears(console, callersVoice)
  await console.keyboard.press('"')
  await expect(ribbon(console, 'In hand', 'Odette')).toContainText('recorded')
  await expect(console.getByRole('log', { name: 'What happens' })).toContainText('The call is recorded from now on')
  const pieces = async () => (await own.sql<{ count: number }>('select count(*)::int as count from message_sound where message like \'recording:%\''))[0]!.count
  await expect.poll(pieces, { timeout: 40_000 }).toBeGreaterThan(1)
  await console.keyboard.press('"')
  await expect(ribbon(console, 'In hand', 'Odette')).not.toContainText('recorded')

  const list = supervisor.getByRole('group', { name: 'Recordings, the latest first' })
  await expect(list.getByRole('row').filter({ hasText: 'Odette' })).toContainText('Ines Quillfeather')
  const details = supervisor.getByRole('complementary', { name: 'The chosen recording' })
  await expect(details).toContainText('Recorded from here, at Ines Quillfeather')
  const sound = await supervisor.request.get(await details.getByRole('link', { name: 'WAV' }).getAttribute('href') ?? '')
  const samples = new WaveFile(await sound.body()).getSamples(false, Int16Array as never) as unknown as Int16Array
  const middle = Float32Array.from(samples.subarray(4_000, 12_000), sample => sample / 32_768)
  expect([operatorsVoice, callersVoice, 1_500].filter(hertz => heightOf(hertz, middle, 8_000) > 0.003)).toEqual([operatorsVoice, callersVoice])
  await details.getByRole('button', { name: 'Play' }).click()
  await expect(details.getByText(/of 0:0\d$/)).toBeVisible()

  await details.getByRole('textbox', { name: /^Note about the call of/ }).fill('About a <lorry>')
  await details.getByRole('button', { name: 'Keep the note' }).click()
  await expect(list.getByRole('row').filter({ hasText: 'Odette' })).toContainText('About a <lorry>')
  expect((await new AxeBuilder({ page: supervisor }).analyze()).violations).toEqual([])
  await details.getByRole('button', { name: 'Delete …' }).click()
  await details.getByRole('button', { name: 'Delete for good' }).click()
  await expect(details).toContainText('Its sound is gone: deleted by Bryony Lusk.')
  await expect(details.getByRole('heading').first()).toBeFocused()
  expect(await pieces()).toBe(0)
  expect((await console.request.get('/api/recordings')).status()).toBe(403)
  await cast.home()
})

test('made-up callers have a voice; whoever has signed out hears nobody any more', async ({ own }, info) => {
  const low = await speaking(operatorsVoice, info.outputPath('low.wav'))
  const console = await measured(await own.open(low, 'ines'))
  await console.reload()
  await turnOn(console)
  const call = await own.cast.ring('Mabel Quickthorn')
  await ribbon(console, 'Arriving', 'Mabel').getByRole('button', { name: 'Answer' }).click()
  await expect(ribbon(console, 'In hand', 'Mabel')).toBeVisible()
  expect(await loudness(console)).toBeLessThan(0.001)
  await own.cast.say(call, 'Good morning, I would like to know when the evening sailing to the Isle of Hallow leaves, and whether I can bring a bicycle.')
  await expect.poll(() => loudness(console)).toBeGreaterThan(0.05)
  await expect(ribbon(console, 'In hand', 'Mabel')).toContainText('bicycle')

  // Practised without reading along.
  await console.getByRole('button', { name: 'Talking by this browser: on' }).click()
  await console.getByRole('dialog', { name: 'Sound' }).getByText('Show what is said under the call').click()
  await console.keyboard.press('Escape')
  await expect(ribbon(console, 'In hand', 'Mabel')).not.toContainText('bicycle')

  const { id } = (await (await console.request.get('/api/sessions')).json() as { id: string, own: boolean }[]).find(one => one.own)!
  await console.request.delete(`/api/sessions/${id}`)
  await own.cast.say(call, 'Hello, is anybody still there, can anybody hear me at all?')
  await expect(console.getByLabel('Password')).toBeVisible()
  await expect.poll(() => loudness(console)).toBeLessThan(0.001)
  await low.close()
})

test('a voice message is heard: after the greeting, to its end, quicker, from where one likes, as WAV; by whom it is for alone', async ({ own }, info) => {
  const cast = await people(own, info.outputPath.bind(info))
  const { console, caller, outside } = cast
  await inHand(cast)
  const [call] = own.cast.state.calls.keys()
  await own.cast.ask({ service: 'singleStepTransferCall', device: 't2100', call: call!, to: 'mailbox:t2100' })
  // What the house says, and then its tone: until then nothing is written down.
  await expect.poll(() => loudness(caller)).toBeGreaterThan(0.05)
  await expect.poll(async () => (await own.sql<{ count: number }>('select count(*)::int as count from message_sound'))[0]!.count, { timeout: 40_000 })
    .toBeGreaterThanOrEqual(2)
  await outside.getByRole('button', { name: 'Hang up' }).click()

  await console.getByRole('link', { name: /^Messages/ }).click()
  const details = console.getByRole('complementary', { name: 'The chosen message' })
  await expect(details).toContainText('Left in the voicemail of Ines Quillfeather')
  const sound = details.getByRole('group', { name: 'Sound of the message of Odette Farrowmere' })
  const address = await sound.getByRole('link', { name: 'WAV' }).getAttribute('href')
  const answer = await console.request.get(address!)
  expect([answer.status(), answer.headers()['content-type']]).toEqual([200, 'audio/wav'])
  const samples = new WaveFile(await answer.body()).getSamples(false, Int16Array as never) as unknown as Int16Array
  expect(samples.length).toBeGreaterThanOrEqual(4 * 8_000)
  expect([callersVoice, operatorsVoice].map(hertz => heightOf(hertz, Float32Array.from(samples.subarray(8_000, 16_000)), 8_000) > 300)).toEqual([true, false])
  expect((await caller.request.get(address!)).status()).toBe(404)
  expect((await console.request.get('/api/messages/nothing/sound')).status()).toBe(404)

  await expect(details).toContainText('Not read yet.')
  await sound.getByRole('button', { name: 'Play' }).click()
  await expect(sound.getByRole('button', { name: 'Pause' })).toBeVisible()
  await sound.getByLabel('Speed').selectOption('2×')
  const where = sound.getByRole('slider', { name: 'Where it plays' })
  await expect.poll(async () => Number(await where.inputValue())).toBeGreaterThan(0.5)
  await sound.getByRole('button', { name: 'Pause' }).click()
  const stopped = await where.inputValue()
  await where.press('End')
  expect(Number(await where.inputValue())).toBeGreaterThan(Number(stopped))
  await where.press('ArrowLeft')
  await sound.getByRole('button', { name: 'Play' }).click()
  await expect(details).toContainText(/Read .*\./)
  await expect(sound.getByRole('button', { name: 'Play' })).toBeVisible()
  expect((await new AxeBuilder({ page: console }).analyze()).violations).toEqual([])

  await details.getByRole('button', { name: 'Delete' }).click()
  await expect(details.getByRole('status').filter({ hasText: 'Deleted: it goes for good' })).toBeVisible()
  expect((await new AxeBuilder({ page: console }).analyze()).violations).toEqual([])
  await details.getByRole('button', { name: 'Bring it back' }).click()
  await expect(details.getByRole('button', { name: 'Delete' })).toBeVisible()
  await expect(console.getByRole('listitem').filter({ hasText: 'Odette Farrowmere' })).not.toContainText('Deleted')

  const pass = details.getByRole('form', { name: 'Pass on' })
  await pass.getByRole('button', { name: 'Pass on' }).click()
  await expect(pass).toContainText('Pass on to')
  await pass.getByRole('combobox', { name: 'Pass on to' }).fill('Tomas')
  await console.getByRole('option', { name: /^Tomas Arkwell/ }).click()
  await pass.getByRole('textbox', { name: 'A word with it' }).fill('Yours, I think.')
  await pass.getByRole('button', { name: 'Pass on' }).click()
  await expect(console.getByRole('log', { name: 'What happens' })).toContainText('Passed on to Tomas Arkwell')
  await expect(console.getByRole('region', { name: 'Taken down by you' })).toContainText('Passed on by Ines Quillfeather: “Yours, I think.”')
  await caller.goto('/messages')
  const passed = caller.getByRole('complementary', { name: 'The chosen message' })
  await expect(passed).toContainText('Passed on by Ines Quillfeather: “Yours, I think.”')
  const copy = await passed.getByRole('link', { name: 'WAV' }).getAttribute('href')
  expect((await (await caller.request.get(copy!)).body()).length).toBe((await (await console.request.get(address!)).body()).length)
  expect((await console.request.get(copy!)).status()).toBe(404)
  await console.screenshot({ path: info.outputPath('messages.png') })
  await cast.home()
})

test('what somebody has brought is heard in the place of music, and a greeting in one\'s own voice by whoever reaches the mailbox', async ({ own }, info) => {
  const cast = await people(own, info.outputPath.bind(info))
  const { console, caller, outside } = cast
  const brought = 1_700
  const tone = new WaveFile()
  const rate = 96_000
  const channel = Array.from({ length: rate }, (_, at) => Math.round(9_000 * Math.sin(2 * Math.PI * brought * at / rate)))
  tone.fromScratch(8, rate, '16', Array.from({ length: 8 }, () => channel))
  const admin = await own.open(console.context().browser()!, 'admin')
  await admin.goto('/company')
  await admin.getByRole('button', { name: 'What callers hear' }).click()
  const music = admin.getByRole('complementary', { name: 'Music on hold' })
  const file = (name: string, buffer: Buffer) => music.locator('input[type=file]').setInputFiles({ name, mimeType: 'audio/wav', buffer })
  await file('waltz.wav', Buffer.from('no sound at all'))
  await expect(music.getByRole('alert')).toContainText('The file is no sound that this browser can play.')
  const long = new WaveFile()
  long.fromScratch(1, 8_000, '8', new Uint8Array(181 * 8_000))
  await file('long.wav', Buffer.from(long.toBuffer()))
  await expect(music.getByRole('alert')).toContainText('longer than 180 seconds')
  long.fromScratch(1, 8_000, '8', new Uint8Array(180 * 8_000))
  await file('long.wav', Buffer.from(long.toBuffer()))
  await expect(music).toContainText('long.wav, by')
  await file('waltz.wav', Buffer.from(tone.toBuffer()))
  await expect(music).toContainText('waltz.wav, by')
  await expect(music.getByRole('alert')).toBeHidden()
  await expect(admin.getByRole('listitem').filter({ hasText: 'Music on hold' })).toContainText('own sound, 0:01')
  expect((await new AxeBuilder({ page: admin }).analyze()).violations).toEqual([])

  await inHand(cast)
  await console.keyboard.press('Space')
  await expect.poll(() => heard(caller, brought)).toEqual([brought])
  own.stack.sound!.kill('SIGKILL')
  await own.stack.startSound()
  await expect.poll(() => heard(caller, brought), { message: 'a sound process that begins anew has it again', timeout: 20_000 }).toEqual([brought])
  await music.getByRole('button', { name: 'Take the own sound away' }).click()
  await expect(music.getByRole('button', { name: 'Record: Music on hold' })).toBeFocused()
  await expect.poll(async () => [await heard(caller, brought), await loudness(caller) > 0.03]).toEqual([[], true])
  await console.keyboard.press('Space')
  await hears(caller, operatorsVoice)

  await console.getByRole('link', { name: /^Messages/ }).click()
  const mailbox = console.getByRole('region', { name: 'Your voicemail' })
  // A call that is taken meanwhile is heard: what was being recorded is let go.
  const [held] = own.cast.state.calls.keys()
  await own.cast.ask({ service: 'holdCall', device: 't2100', call: held! })
  await hears(console)
  const record = mailbox.getByRole('button', { name: 'Record: Greeting, Usually' })
  await record.click()
  await expect(mailbox).toContainText('Recording: 0:')
  await own.cast.ask({ service: 'retrieveCall', device: 't2100', call: held! })
  await expect(mailbox.getByRole('alert')).toContainText('You talk on a call: nothing was recorded.')
  await hears(caller, operatorsVoice)
  await record.click()
  await expect(mailbox.getByRole('alert')).toBeHidden()
  await expect(mailbox).toContainText(/Recording: 0:0[2-9] of 1:00/)
  // What is recorded is for the mailbox: nobody on the call hears it.
  await hears(caller)
  await mailbox.getByRole('button', { name: 'Stop recording: Greeting, Usually' }).click()
  await expect(mailbox).toContainText('recorded by Ines Quillfeather')
  await expect(mailbox).toContainText('Whoever reaches it hears now what you have recorded.')
  await hears(caller, operatorsVoice)
  await own.cast.ask({ service: 'singleStepTransferCall', device: 't2100', call: held!, to: 'mailbox:t2100' })
  await hears(caller, operatorsVoice)
  // Then the tone, and silence: the mailbox listens.
  await hears(caller)
  await console.screenshot({ path: info.outputPath('greeting.png') })
  await outside.getByRole('button', { name: 'Hang up' }).click()
  await admin.context().close()
  await cast.home()
})

test('a loudspeaker plays what is paged, after a gong, and nothing before and after', async ({ own }, info) => {
  const low = await speaking(operatorsVoice, info.outputPath('low.wav'))
  const console = await measured(await own.open(low, 'ines'))
  await console.reload()
  await turnOn(console)
  const hall = await measured(await own.open(low, 'tomas'))
  await hall.goto('/handset?of=loudspeakers')
  const { pageDefault } = own.cast.state.company.settings
  const speaker = own.cast.state.company.zones[pageDefault!]!.speakers[0]!
  await hall.getByRole('button', { name: `Hear the loudspeaker ${speaker}` }).click()
  await expect.poll(async () => (await samplesAt(hall)).samples.length).toBeGreaterThan(0)
  expect(await heard(hall, 660, operatorsVoice)).toEqual([])
  await console.keyboard.press('&')
  await expect.poll(() => heard(hall, 528)).toEqual([528])
  await expect.poll(() => heard(hall, 528, operatorsVoice)).toEqual([operatorsVoice])
  await console.keyboard.press('&')
  await expect.poll(() => heard(hall, operatorsVoice)).toEqual([])
  await low.close()
})

silent('a house without sound says so, once; and nobody hears at a telephone that isn\'t theirs', async ({ own, browser }) => {
  const console = await own.open(browser, 'ines')
  const ask = async (device: string) => {
    const answer = await console.request.post('/api/sound', { data: { device, sdp: 'v=0\r\n' } })
    return [answer.status(), (await answer.json() as { message: string }).message] as const
  }
  expect(await ask('t2105')).toEqual([403, expect.stringContaining('demo only')])
  expect(await ask('__proto__')).toEqual([403, expect.stringContaining('demo only')])
  expect(await ask('t2100')).toEqual([409, expect.stringContaining('This house runs without sound')])
  await console.getByRole('button', { name: 'Talking by this browser: off' }).click()
  const sheet = console.getByRole('dialog', { name: 'Sound' })
  await sheet.getByText('Talk and hear by this browser').click()
  await expect(sheet).toContainText('This house runs without sound: what is said is read under the call.')
  await expect(sheet.getByRole('button', { name: 'Try again' })).toBeVisible()
  const refused = await console.request.post('/api/requests', { data: { id: crypto.randomUUID(), device: 't2100', service: 'startRecording', call: 'none' } })
  expect([refused.status(), (await refused.json() as { message: string }).message]).toEqual([409, expect.stringContaining('nothing can be recorded')])
})
