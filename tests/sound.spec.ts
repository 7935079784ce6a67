import type { Page } from '@playwright/test'
import { heightOf } from '../core/sound/tone'
import { alone, expect } from './stage'

const test = alone()

/** What a page sounds at this moment: the samples of one turn of its tone; nothing: silence. */
async function sounding(page: Page): Promise<Float32Array | null> {
  const samples = await page.evaluate(() => (window as unknown as { sounding: number[] | null }).sounding)
  return samples && Float32Array.from(samples)
}
/** Which of some frequencies are in what is heard. */
const heard = async (page: Page, ...frequencies: number[]) => {
  const samples = await sounding(page)
  return samples ? frequencies.filter(hertz => heightOf(hertz, samples, 8_000) > 0.005) : null
}
async function listenedTo(page: Page, address: string): Promise<Page> {
  await page.addInitScript(() => {
    const told = window as unknown as { sounding: number[] | null }
    told.sounding = null
    const { start, stop } = AudioBufferSourceNode.prototype
    AudioBufferSourceNode.prototype.start = function (this: AudioBufferSourceNode) {
      told.sounding = [...this.buffer!.getChannelData(0)]
      start.call(this)
    }
    AudioBufferSourceNode.prototype.stop = function (this: AudioBufferSourceNode) {
      told.sounding = null
      stop.call(this)
    }
  })
  await page.goto(address)
  return page
}

test('who calls hears it ring, hears the busy tone of the country, and the house\'s own once it has one', async ({ own, browser }) => {
  const { cast } = own
  const [caller, other] = [cast.state.company.telephones.t2110!, cast.state.company.telephones.t2111!]
  const page = await listenedTo(await own.open(browser, 'ines'), `/handset?of=${caller.id}`)
  const telephone = page.getByRole('region', { name: `Handset of ${caller.name}` })
  const dial = async () => {
    await telephone.getByLabel('Number').fill(other.number)
    await telephone.getByRole('button', { name: 'Dial' }).click()
  }
  expect(await sounding(page)).toBeNull()
  await dial()
  await expect(telephone.getByRole('article')).toContainText('is being rung')
  expect(await heard(page, 400, 425, 450, 600)).toEqual([400, 450])
  expect((await sounding(page))!.length).toBe(3 * 8_000)
  await cast.answer(other.id, await cast.ringingAt(other.id))
  await expect(telephone.getByRole('article')).toContainText('talking')
  expect(await sounding(page)).toBeNull()

  // The other talks with somebody else now.
  await telephone.getByRole('button', { name: 'Hang up' }).click()
  await expect(telephone).toContainText('Nothing rings.')
  await cast.ask({ service: 'makeCall', device: 't2112', number: other.number })
  await cast.answer(other.id, await cast.ringingAt(other.id))
  await dial()
  await expect(telephone.getByRole('article')).toContainText('is on the telephone')
  expect(await heard(page, 400, 450, 600)).toEqual([400])
  expect((await sounding(page))!.length).toBe(0.75 * 8_000)

  const admin = await listenedTo(await own.open(browser, 'admin'), '/company')
  await admin.getByRole('combobox', { name: 'Which part' }).press('Enter')
  await admin.getByRole('option', { name: 'Settings', exact: true }).click()
  const form = admin.getByRole('complementary', { name: 'What is chosen' })
  await form.getByLabel('Tone when somebody talks', { exact: true }).fill('600: 0.3 on 0.2 of')
  await expect(form.getByRole('button', { name: 'Hear: Tone when somebody talks' })).toBeDisabled()
  await form.getByRole('button', { name: 'Save' }).click()
  await expect(form.getByText(/^Tone when somebody talks must be written as 400\+450: 0\.4 on 0\.2 off/).first()).toBeVisible()
  await expect(form.getByLabel('Tone when somebody talks', { exact: true })).toBeFocused()
  await form.getByLabel('Tone when somebody talks', { exact: true }).fill('600: 0.3 on 0.2 off')
  await form.getByRole('button', { name: 'Hear: Tone when somebody talks' }).click()
  await expect.poll(() => heard(admin, 400, 600)).toEqual([600])
  await form.getByRole('button', { name: 'Stop: Tone when somebody talks' }).click()
  expect(await sounding(admin)).toBeNull()
  await form.getByRole('button', { name: 'Save' }).click()
  await expect(admin.getByText('Changed, everywhere.')).toBeVisible()
  await dial()
  await expect.poll(() => heard(page, 400, 600)).toEqual([600])

  // A line that isn't there is told by another cadence, and not for ever.
  await own.sql('update trunk set channels = 1, kept = 0')
  await expect.poll(() => Object.values(cast.state.company.trunks).map(({ channels }) => channels)).toEqual([1, 1])
  await cast.ring('Takes the First', { trunk: 'east' })
  await cast.ring('Takes the Second', { trunk: 'west' })
  await telephone.getByRole('button', { name: 'Hang up' }).click()
  await expect(telephone).toContainText('Nothing rings.')
  await telephone.getByLabel('Number').fill('01632 960501')
  await telephone.getByRole('button', { name: 'Dial' }).click()
  await expect(telephone.getByRole('alert')).toContainText('Every line to the outside is in use.')
  await expect.poll(async () => (await sounding(page))?.length).toBe(1.5 * 8_000)
  await expect.poll(() => sounding(page), { timeout: 8_000 }).toBeNull()
})
