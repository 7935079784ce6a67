import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { BrowserContext, Page } from '@playwright/test'
import rest from '../words/en/rest'
import start from '../words/en/start'
import type { Words } from '../words/speaker'
import { alone, expect } from './stage'

/**
 * A language that nobody speaks, each word half as long again and marked, goes through every page: whatever is not marked stands in no catalogue, and
 * whatever is cut would be cut in somebody's language.
 */
const mark = '~'
const built = '.output/public/_nuxt'
const parts = [start, rest] as Words[]
const stretched = (text: string) => text.split(/(\{[^}]*\}| \| )/).map((part, at) => at % 2 === 1
  ? part
  : part.replace(/\p{L}[\p{L}\p{N}'’]*/gu, word => word + mark.repeat(Math.ceil(word.length / 2)))).join('')
const madeUp = (words: Words) => Object.fromEntries(Object.entries(words).map(([subject, texts]) =>
  [subject, Object.fromEntries(Object.entries(texts).map(([key, text]) => [key, stretched(text)]))]))

/** The browser is given the made-up language in the place of the catalogue. */
async function speakMadeUp(context: BrowserContext): Promise<void> {
  const programs = readdirSync(built).filter(file => file.endsWith('.js')).map(file => ({ file, text: readFileSync(join(built, file), 'utf8') }))
  for (const words of parts) {
    const theirs = programs.filter(({ text }) => Object.keys(words).every(subject => new RegExp(`\\b${subject}:`).test(text)))
    expect(theirs).toHaveLength(1)
    const body = `export default ${JSON.stringify(madeUp(words))}`
    await context.route(`**/_nuxt/${theirs[0]!.file}`, route => route.fulfill({ contentType: 'text/javascript', body }))
  }
}

/** What people have written, and what the server says in the language of whoever asks: words in the values that a page is sent, but no codes. */
function heardFrom(page: Page): Set<string> {
  const heard = new Set<string>()
  const hear = (text: string) => {
    const values: string[] = []
    try {
      JSON.parse(text, (_, value: unknown) => typeof value === 'string' && values.push(value))
    }
    catch {
      return
    }
    for (const value of values) if (!/^[a-z][a-zA-Z]*$/.test(value)) for (const word of wordsIn(value)) heard.add(word)
  }
  page.on('response', response => void (response.headers()['content-type']?.includes('json') && response.text().then(hear, () => {})))
  page.on('websocket', socket => socket.on('framereceived', ({ payload }) => hear(String(payload))))
  return heard
}

const wordsIn = (text: string) => text.replace(/\bhttps?:\S*|\S+@\S+/g, '').match(/\p{L}[\p{L}\p{N}'’]*~*/gu) ?? []

const clock = (options: Intl.DateTimeFormatOptions) => Array.from({ length: 12 }, (_, at) => new Date(2031, at, at + 1).toLocaleDateString('en-GB', options))
/** What stands on keys and in files is the same in every language; days and months are the browser's own; names are written small where one signs in. */
const everywhere = new Set([
  'ines', 'tomas', 'bryony', 'admin', 'staff', 'west', 'east', 'Estafette', 'Enter', 'Esc', 'Ctrl', 'Shift', 'Alt', 'Tab', 'End', 'CSV', 'vCard', 'JSON', 'WAV',
  ...clock({ weekday: 'long' }), ...clock({ weekday: 'short' }), ...clock({ month: 'long' }), ...clock({ month: 'short' }),
])

/** All that is read and heard on a page, and what of it is cut off. */
const texts = (page: Page) => page.evaluate((mark) => {
  const seen = (element: Element) => element.checkVisibility({ visibilityProperty: true, opacityProperty: true })
  const said: string[] = []
  const cut: string[] = []
  const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT)
  for (let node = walker.nextNode(); node; node = walker.nextNode()) {
    const element = node.parentElement!
    if (!node.nodeValue!.trim() || !seen(element) || element.closest('script, style, [translate=no]')) continue
    said.push(node.nodeValue!.trim())
    const { overflowX } = getComputedStyle(element)
    // What is only heard stands in a place of one pixel.
    let onlyHeard = false
    for (let around: Element | null = element; around; around = around.parentElement) onlyHeard ||= around.getBoundingClientRect().width <= 2
    if (node.nodeValue!.includes(mark) && !onlyHeard && overflowX !== 'visible' && element.scrollWidth > element.clientWidth + 1)
      cut.push(node.nodeValue!.trim())
  }
  for (const name of ['aria-label', 'title', 'placeholder', 'aria-valuetext', 'alt'])
    for (const element of Array.from(document.querySelectorAll(`[${name}]`))) if (seen(element)) said.push(element.getAttribute(name)!)
  return { said, cut, sideways: document.documentElement.scrollWidth - innerWidth }
}, mark)

async function expectAllMadeUp(page: Page, where: string, heard: ReadonlySet<string>): Promise<void> {
  const { said, cut, sideways } = await texts(page)
  const isPlain = (word: string) => word.length > 1 && !/^F\d+$/.test(word) && !word.endsWith(mark) && !heard.has(word) && !everywhere.has(word)
  const plain = said.flatMap(text => wordsIn(text).filter(isPlain).map(word => `${where}: “${word}” in “${text.slice(0, 80)}”`))
  expect.soft([...new Set(plain)], `${where}: in no catalogue`).toEqual([])
  expect.soft([...new Set(cut)], `${where}: cut off`).toEqual([])
  expect.soft(sideways, `${where}: wider than the window`).toBeLessThanOrEqual(0)
}

const sizes = [{ width: 1280, height: 800 }, { width: 380, height: 800 }]
const pages = {
  ines: ['/whereabouts', '/contacts', '/contacts/import', '/log', '/parkings', '/blocked', '/call-backs', '/shift', '/outside', '/messages', '/handset',
    '/account'],
  bryony: ['/watch', '/wall', '/recordings'],
  admin: ['/accounts', '/company', '/company/people', '/company/changes', '/company/file', '/company/directory', '/company/sounds', '/connections', '/identity',
    '/upkeep', '/charges', '/figures', '/figures/ahead', '/first-hour'],
}

const own = alone()
own.setTimeout(600_000)

own('every page speaks a language that nobody has translated, and cuts none of it', async ({ browser, own: stage }) => {
  await stage.cast.ring('Caller One')
  await stage.cast.ask({ service: 'promiseCallBack', device: 't2101', number: '07700 900996', name: 'Promised Caller' })
  await stage.cast.ask({ service: 'blockNumber', device: 't2101', number: '07700 900997', reason: 'Shouts' })
  for (const who of ['ines', 'bryony', 'admin'] as const) {
    const page = await stage.open(browser, who)
    const heard = heardFrom(page)
    await speakMadeUp(page.context())
    for (const path of ['/', ...pages[who]]) {
      await page.goto(`${stage.url}${path}`)
      await expect(page.getByRole('main').getByText(mark).first()).toBeVisible()
      await page.waitForLoadState('networkidle')
      for (const size of sizes) {
        await page.setViewportSize(size)
        await expectAllMadeUp(page, `${path} at ${size.width}`, heard)
      }
    }
    await page.context().close()
  }
})

own('so does every sheet of the hand', async ({ browser, own: stage }) => {
  const page = await stage.open(browser, 'ines')
  const heard = heardFrom(page)
  await speakMadeUp(page.context())
  const call = await stage.cast.ring('Sheet Caller')
  await stage.cast.ring('Waiting Caller')
  await page.goto(stage.url)
  await stage.cast.answer('t2100', call)
  await expect(page.getByRole('combobox').first()).toBeFocused()
  for (const key of ['F4', 'F9', '_']) {
    await page.keyboard.press(key)
    await expect(page.getByRole('dialog')).toContainText(mark)
    for (const size of sizes) {
      await page.setViewportSize(size)
      await expectAllMadeUp(page, `${key} at ${size.width}`, heard)
    }
    await page.keyboard.press('Escape')
    await expect(page.getByRole('dialog')).toBeHidden()
  }
  for (const typed of ['freight', '!', '?']) {
    await page.keyboard.type(typed)
    for (const size of sizes) {
      await page.setViewportSize(size)
      await expectAllMadeUp(page, `after ${typed} at ${size.width}`, heard)
    }
    await page.keyboard.press('Escape')
  }
})
