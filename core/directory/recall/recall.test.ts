import { english } from '../../../words/english'
import { describe, expect, it } from 'vitest'
import { merrowby } from '../../../demo/company/merrowby'
import { entriesOf } from '../entries'
import { Directory, type DirectoryEntry } from '../search'
import { heardPeople } from './people'
import { type Kind, kinds, queries } from './queries'

/** The people of the queries among 600 others. */
const entries: DirectoryEntry[] = [
  ...entriesOf(english, merrowby(600)),
  ...heardPeople.map(({ misheard: _heard, ...one }) => ({ ...one, id: one.extension, telephones: [one.extension], site: '', direct: null })),
]
const directory = new Directory(entries)

/** The share of queries whose right answer is the first, and among the first five. */
function recall(of: (kind: Kind) => boolean, aside: boolean): { queries: number, first: number, five: number } {
  const places = queries.filter(query => query.aside === aside && of(query.kind)).map(({ typed, right }) => {
    const place = directory.search(typed, 24).findIndex(({ id }) => right.includes(id))
    return place < 0 ? Infinity : place
  })
  const share = (most: number) => Number((places.filter(place => place < most).length / places.length).toFixed(3))
  return { queries: places.length, first: share(1), five: share(5) }
}

describe.each([['that the search was tuned with', false], ['kept aside', true]])('of the queries %s', (_which, aside) => {
  it('92 of 100 find whom they mean first, and 98 among the first five', () => {
    const all = recall(() => true, aside)
    console.log(JSON.stringify({ aside, all, ...Object.fromEntries(kinds.map(kind => [kind, recall(one => one === kind, aside)])) }))
    expect(all.queries).toBeGreaterThan(250)
    expect(all.first).toBeGreaterThanOrEqual(0.92)
    expect(all.five).toBeGreaterThanOrEqual(0.98)
  })

  it('95 of 100 misheard names are among the first five', () => {
    expect(recall(kind => kind === 'misheard', aside).five).toBeGreaterThanOrEqual(0.95)
  })
})
