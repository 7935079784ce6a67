/** Both run in a page: what is measured there is not changed by how long it takes to tell. */

/**
 * Remembers when something is seen first.
 * @param {string} selector
 */
export function seenFrom(selector) {
  new MutationObserver((_, observer) => {
    if (!document.querySelector(selector)) return
    performance.mark('seen')
    observer.disconnect()
  }).observe(document, { childList: true, subtree: true })
}

/**
 * Bytes, as they travelled, of every file of a kind that was asked for before that.
 * @param {string} kind for example ".js"
 */
export function bytesUntilSeen(kind) {
  const seen = performance.getEntriesByName('seen')[0]?.startTime ?? Infinity
  const files = /** @type {PerformanceResourceTiming[]} */ (performance.getEntriesByType('resource'))
  const before = files.filter(({ name, startTime }) => startTime < seen && new URL(name).pathname.endsWith(kind))
  // What was fetched beforehand stands there again when it is used.
  const sizes = new Map(before.map(({ name, encodedBodySize }) => [name, encodedBodySize]))
  return [...sizes.values()].reduce((sum, size) => sum + size, 0)
}
