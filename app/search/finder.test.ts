import { describe, expect, it } from 'vitest'
import { Directory, type DirectoryEntry } from '~~/core/directory/search'
import { Finder, mostAtOnce, mostHere } from './finder'
import { type Port, serveSearch, type ToSearch } from './searching'

const preferred = { probable: new Map<string, number>(), busy: new Set<string>(), often: new Set<string>() }
const entry = (at: number, last = `Family${at}`): DirectoryEntry => ({
  id: `t${at}`, telephones: [`t${at}`], extension: `${10_000 + at}`, first: 'Una', last, nickname: null, former: null, department: 'd',
  departmentName: 'Stores', site: 'Quay', role: 'Clerk', room: '', handles: [], mobile: null, direct: null,
})
const many = Array.from({ length: mostHere + 1 }, (_, index) => entry(index))

/** A thread beside, at the other end of a channel; it can be made to die. */
function threads() {
  const made: { near: MessagePort, far: MessagePort, died: () => void }[] = []
  const besides = (died: () => void): Port => {
    const { port1: near, port2: far } = new MessageChannel()
    serveSearch(far as unknown as Port)
    made.push({ near, far, died })
    return near as unknown as Port
  }
  const end = () => made.forEach(({ near, far }) => [near, far].forEach(port => port.close()))
  return { made, besides, end }
}

describe('finding among many', () => {
  it('goes on beside, gives the same answers as here, and never answers from the list of before', async () => {
    const { made, besides, end } = threads()
    const finder = new Finder(besides)
    finder.become(many.slice(0, 20))
    expect(made).toHaveLength(0)
    expect(finder.search('family7', 1, preferred)).toMatchObject([{ id: 't7' }])

    finder.become(many)
    expect(made).toHaveLength(1)
    const busy = new Set(['t70', 't71'])
    const here = new Directory(many).search('family7', 12, { ...preferred, busy })
    expect(await finder.search('family7', 12, { ...preferred, busy })).toEqual(here)
    // Somebody marries, somebody leaves, and the next question comes at once.
    finder.become([...many.slice(0, 5), entry(5, 'Newname'), ...many.slice(7)])
    const [married, gone] = await Promise.all([finder.search('newname', 5, preferred), finder.search('family6', 5, preferred)])
    expect(married).toMatchObject([{ id: 't5' }])
    expect(gone.map(({ id }) => id)).not.toContain('t6')
    end()
  })

  it('tells whoever is there in pieces, the next when the last is taken in, and a question after all that came before it', () => {
    const told: ToSearch[] = []
    const port: Port = { postMessage: message => void told.push(message), onmessage: null }
    const finder = new Finder(() => port)
    finder.become(many)
    void finder.search('family7', 1, preferred)
    const pieces: string[][] = []
    for (let last = told.at(-1)!; last.type === 'changed'; last = told.at(-1)!) {
      pieces.push(last.changes.put.map(({ id }) => id))
      expect(told).toHaveLength(pieces.length)
      port.onmessage!({ data: { type: 'taken' } } as MessageEvent)
    }
    expect(Math.max(...pieces.map(({ length }) => length))).toBe(mostAtOnce)
    expect(pieces.flat()).toEqual(many.map(({ id }) => id))
    expect(told.at(-1)).toMatchObject({ type: 'search', text: 'family7' })
  })

  it('that dies is done here: whoever waits for an answer gets it', async () => {
    const { made, besides, end } = threads()
    const finder = new Finder(besides)
    finder.become(many)
    made[0]!.far.close()
    const waiting = [finder.search('family12', 3, preferred), finder.search('10019', 3, preferred)]
    made[0]!.died()
    expect((await Promise.all(waiting)).map(([first]) => first?.id)).toEqual(['t12', 't19'])
    expect(finder.search('family13', 1, preferred)).toMatchObject([{ id: 't13' }])
    finder.become(many.slice(0, -1))
    expect(made).toHaveLength(1)
    end()
  })

  it('where there are no threads is done here, however many there are', () => {
    const finder = new Finder(null)
    finder.become(many)
    expect(finder.search('10019', 1, preferred)).toMatchObject([{ id: 't19' }])
  })
})
