import { expect, type Page } from '@playwright/test'
import rest from '../words/en/rest'
import start from '../words/en/start'

/** A key of the catalogue that stands on a screen, or is read aloud, in the place of its words: found wherever a test goes. */
const keys = Object.entries({ ...start, ...rest }).flatMap(([subject, words]) => Object.keys(words).map(name => `${subject}.${name}`))
const shown: string[] = []

/** Looks at everything that a page shows from now on. */
export async function watchForKeys(page: Page): Promise<void> {
  page.on('console', message => message.text().startsWith('KEY ') && shown.push(message.text()))
  await page.addInitScript((known: string[]) => {
    const all = new Set(known)
    const told = new Set<string>()
    const look = (text: string | null) => {
      for (const [key] of text?.matchAll(/\b[a-z]\w+\.[a-z]\w+\b/gi) ?? []) {
        if (!all.has(key) || told.has(key)) continue
        told.add(key)
        console.error(`KEY ${key} at ${location.pathname}`)
      }
    }
    const spoken = ['aria-label', 'title', 'placeholder', 'aria-valuetext', 'alt']
    const lookAt = (node: Node) => {
      if (node instanceof Text) return look(node.data)
      if (!(node instanceof Element)) return
      look(node.textContent)
      const inside = Array.from(node.querySelectorAll(spoken.map(name => `[${name}]`).join()))
      for (const one of [node, ...inside]) for (const name of spoken) look(one.getAttribute(name))
    }
    new MutationObserver((changes) => {
      for (const { type, target, addedNodes } of changes) {
        if (type === 'childList') addedNodes.forEach(lookAt)
        else lookAt(target)
      }
    }).observe(document, { childList: true, subtree: true, characterData: true, attributes: true, attributeFilter: spoken })
  }, keys)
}

/** None has been shown since it was last asked. */
export function expectNoKeys(): void {
  expect(shown.splice(0)).toEqual([])
}
