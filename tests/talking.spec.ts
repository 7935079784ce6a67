import { writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { chromium, type Browser, type Page } from '@playwright/test'
import { heightOf } from '../core/sound/tone'
import { alone, expect, ribbon, type Stage } from './stage'

/** People talk: each has a tone for a voice, and at every ear it is measured whose can be heard. */

// Its module is written for bundlers.
const { WaveFile } = createRequire(import.meta.url)('wavefile') as typeof import('wavefile')

const test = alone({ sound: true })

/** A browser whose microphone gives a tone. */
async function speaking(hertz: number, path: string): Promise<Browser> {
  const rate = 48_000
  const wav = new WaveFile()
  wav.fromScratch(1, rate, '16', Array.from({ length: rate * 10 }, (_, at) => Math.round(9_000 * Math.sin(2 * Math.PI * hertz * at / rate))))
  writeFileSync(path, wav.toBuffer())
  return await chromium.launch({
    executablePath: process.env.CHROMIUM,
    args: ['--no-sandbox', '--disable-gpu', '--use-fake-device-for-media-stream', '--use-fake-ui-for-media-stream', `--use-file-for-fake-audio-capture=${path}`],
  })
}

/** Whatever a page hears by WebRTC can be measured. */
async function measured(page: Page): Promise<Page> {
  await page.addInitScript(() => {
    const told = window as unknown as { ear: AnalyserNode | null }
    told.ear = null
    const { setRemoteDescription } = RTCPeerConnection.prototype
    RTCPeerConnection.prototype.setRemoteDescription = function (this: RTCPeerConnection, ...given: [RTCSessionDescriptionInit]) {
      this.addEventListener('track', ({ track }) => {
        const audio = new AudioContext()
        const ear = audio.createAnalyser()
        ear.fftSize = 8_192
        audio.createMediaStreamSource(new MediaStream([track])).connect(ear)
        told.ear = ear
      })
      return setRemoteDescription.apply(this, given)
    }
  })
  await page.reload()
  return page
}

/** Which of some frequencies are in what a page hears at this moment. */
async function heard(page: Page, ...frequencies: number[]): Promise<number[]> {
  const { rate, samples } = await page.evaluate(() => {
    const { ear } = window as unknown as { ear: AnalyserNode | null }
    if (!ear) return { rate: 1, samples: [] }
    const samples = new Float32Array(ear.fftSize)
    ear.getFloatTimeDomainData(samples)
    return { rate: ear.context.sampleRate, samples: [...samples] }
  })
  const all = Float32Array.from(samples)
  return samples.length ? frequencies.filter(hertz => heightOf(hertz, all, rate) > 0.003) : []
}

test('try', async ({ own }, info) => {
  const [high, low] = await Promise.all([speaking(1_000, info.outputPath('high.wav')), speaking(620, info.outputPath('low.wav'))])
  const operator = await measured(await own.open(low, 'ines'))
  const caller = await measured(await own.open(high, 'tomas'))
  await operator.getByRole('button', { name: 'Talking by this browser: off' }).click()
  await operator.getByText('Talk and hear by this browser').click()
  await expect(operator.getByRole('dialog', { name: 'Sound' })).toContainText('You hear your calls, and are heard while you talk.')
  await operator.keyboard.press('Escape')
  await caller.goto('/handset?of=outside')
  const outside = caller.getByRole('region', { name: 'Telephone outside' })
  await outside.getByRole('button', { name: 'Talk here' }).click()
  await outside.getByRole('button', { name: 'Call', exact: true }).click()
  await expect.poll(() => heard(caller, 400, 450, 620)).toEqual([400, 450])
  await ribbon(operator, 'Arriving', 'Odette').getByRole('button', { name: 'Answer' }).click()
  for (let i = 0; i < 6; i++) {
    await operator.waitForTimeout(500)
    console.log(await heard(caller, 400, 450, 620, 1000), await heard(operator, 400, 450, 620, 1000))
  }
  await operator.screenshot({ path: '/tmp/w/op.png' })
  await high.close()
  await low.close()
})
