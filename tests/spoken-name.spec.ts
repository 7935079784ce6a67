import { spawnSync } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import AxeBuilder from '@axe-core/playwright'
import { chromium } from '@playwright/test'
import { alone, expect } from './stage'

const test = alone({ serverEnv: { NUXT_RECOGNISER: 'pocketsphinx' } })

/** Seconds. */
const quiet = 2.5

/** A browser into whose microphone a name is said, once each time that it is opened. */
async function speaking(name: string, path: string) {
  const { stdout } = spawnSync('espeak-ng', ['--stdout', '-v', 'en-us', '-s', '150', name])
  // On a busy machine the browser begins to listen a while after its microphone was opened.
  const wav = Buffer.concat([stdout.subarray(0, 44), Buffer.alloc(quiet * stdout.readUInt32LE(28)), stdout.subarray(44)])
  wav.writeUInt32LE(wav.length - 8, 4)
  wav.writeUInt32LE(wav.length - 44, 40)
  writeFileSync(path, wav)
  return await chromium.launch({
    executablePath: process.env.CHROMIUM,
    args: [
      '--no-sandbox', '--disable-gpu', '--use-fake-device-for-media-stream', '--use-fake-ui-for-media-stream',
      `--use-file-for-fake-audio-capture=${path}%noloop`,
    ],
  })
}

test('a name that is said stands in the field, by key and by button; without a microphone it says so, and names are typed', async ({ own, browser }, info) => {
  const speaker = await speaking('Percival Vintry', info.outputPath('name.wav'))
  const page = await own.open(speaker, 'ines')
  const field = page.getByRole('combobox', { name: 'Who is it for?' })
  const say = page.getByRole('button', { name: /^Say a name/ })
  await expect(say).toBeVisible()
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([])
  await page.keyboard.press('%')
  await expect(say).toHaveAttribute('aria-pressed', 'true')
  await expect(say).toHaveText(/Speak/)
  await expect(field).toHaveValue('')
  await expect(field).toHaveValue(/Vintry$/)
  await expect(say).toHaveAttribute('aria-pressed', 'false')
  await expect(page.getByRole('log', { name: 'What happens' })).toContainText(/Understood: .*Vintry/)
  await expect(page.getByRole('option').first()).toContainText('Vintry')
  await expect(field).toBeFocused()

  // Whoever has typed something means a sign.
  await page.keyboard.press('%')
  await expect(field).toHaveValue(/Vintry%$/)
  await page.keyboard.press('Escape')
  await say.click()
  await expect(say).toHaveAttribute('aria-pressed', 'true')
  await expect(field).toHaveValue(/Vintry$/)
  await speaker.close()

  const without = await own.open(browser, 'tomas')
  await without.evaluate(() => {
    navigator.mediaDevices.getUserMedia = () => Promise.reject(new DOMException('', 'NotFoundError'))
  })
  await without.getByRole('button', { name: /^Say a name/ }).click()
  await expect(without.getByRole('alert').filter({ hasText: 'There is no microphone' })).toBeVisible()
})

test('what is no name of anybody\'s, or no sound, is said; who does not answer for the company asks in vain', async ({ own, browser }) => {
  const page = await own.open(browser, 'ines')
  const post = (wav: string, from = page) => from.request.post('/api/spoken-names', { data: { wav } })
  expect((await post('AAAA')).status()).toBe(422)
  expect((await post('*')).status()).toBe(422)
  expect((await post('A'.repeat(400_000))).status()).toBe(413)
  const staff = await own.open(browser, 'staff')
  expect((await post('AAAA', staff)).status()).toBe(403)
})
