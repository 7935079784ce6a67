import { phrase } from '~~/words/phrase'
import { beforeEach, describe, expect, it } from 'vitest'
import { type CompanyChange, changedCompany } from '~~/core/company/changes'
import { type Company, nobody } from '~~/core/company/company'
import { merrowby } from '../../demo/company/merrowby'
import { CompanyKeeper } from './keeper'

/** A database that can be changed and says so, and an exchange that can be told. */
class World {
  stored: Company = { ...merrowby(12), version: 10 }
  exchange: Company = nobody
  /** How often reading fails from now on. */
  failures = 0
  reads = 0
  /** Happens before the exchange answers. */
  meanwhile: () => void = () => {}
  readonly told: { from: number, version: number }[] = []
  readonly logged: string[] = []
  private hear: (payload: string) => void = () => {}

  readonly notices = { on: (_channel: string, hear: (payload: string) => void) => void (this.hear = hear), onListening: () => {} }
  readonly link = {
    get up() { return true },
    configure: async (from: number, version: number, changes: CompanyChange[]) => {
      this.told.push({ from, version })
      this.meanwhile()
      this.meanwhile = () => {}
      if (from !== this.exchange.version) return { seq: 0, refusal: { code: 'notPossibleNow' as const, why: phrase('refusals.theseChangesFollowOnVersion', {
        from, known: this.exchange.version,
      }) } }
      this.exchange = changedCompany(this.exchange, version, changes)
      return { seq: 1 }
    },
  }

  keeper!: CompanyKeeper

  async begin(): Promise<void> {
    this.keeper = await CompanyKeeper.load(() => this.read(), this.notices, () => void this.tell(), text => this.logged.push(text))
  }

  private async read(): Promise<Company> {
    this.reads++
    const { stored } = this
    await new Promise(resolve => setImmediate(resolve))
    if (this.failures-- > 0) throw new Error('away')
    return stored
  }

  tell(): Promise<void> {
    return this.keeper.tell(this.link, () => this.exchange)
  }

  async change(what: (draft: Company) => void): Promise<void> {
    this.stored = { ...structuredClone(this.stored), version: this.stored.version + 1 }
    what(this.stored)
    this.hear('')
    for (let i = 0; i < 4; i++) await new Promise(resolve => setImmediate(resolve))
  }
}

let world: World

beforeEach(async () => {
  world = new World()
  await world.begin()
})

describe('the keeper of the company', () => {
  it('tells an exchange that knows nobody everything, and then only what changes', async () => {
    await world.tell()
    expect(world.exchange).toEqual(world.stored)
    await world.change(draft => void (draft.telephones.t2105!.number = '3105'))
    expect(world.exchange).toEqual(world.stored)
    expect(world.told).toEqual([{ from: 0, version: 10 }, { from: 10, version: 11 }])
    await world.tell()
    expect(world.told, 'what it knows already is not told').toHaveLength(2)
  })

  it('goes on from what another server has told meanwhile', async () => {
    await world.tell()
    world.meanwhile = () => {
      world.exchange = { ...world.exchange, version: 11 }
    }
    world.stored = { ...world.stored, version: 11 }
    await world.change(draft => void Reflect.deleteProperty(draft.slots, 'slot:1'))
    expect(world.told.slice(1)).toEqual([{ from: 10, version: 12 }, { from: 11, version: 12 }])
    expect(world.exchange).toEqual(world.stored)
    expect(world.logged).toEqual([])
  })

  it('keeps what does not fit together to itself, says so once, and tells the next that does', async () => {
    await world.tell()
    await world.change(draft => void (draft.telephones.t2105!.number = '2106'))
    await world.tell()
    expect(world.told).toHaveLength(1)
    expect(world.logged).toEqual([expect.stringContaining('same number 2106')])
    await world.change(draft => void (draft.telephones.t2105!.number = '3105'))
    expect(world.exchange).toEqual(world.stored)
  })

  it('reads a change that could not be read again, until it has been, and many at once together', async () => {
    await world.tell()
    world.failures = 1
    const { reads } = world
    const many = Array.from({ length: 20 }, (_, index) => world.change(draft => void (draft.telephones.t2105!.number = String(3_000 + index))))
    await Promise.all(many)
    await expect.poll(() => world.exchange.telephones.t2105!.number, { timeout: 5_000 }).toBe('3019')
    expect(world.exchange).toEqual(world.stored)
    expect(world.reads - reads).toBeLessThan(6)
  })

  it('never goes back to an older version, in whatever order they are read', async () => {
    await world.change(draft => void (draft.telephones.t2105!.number = '3105'))
    const newest = world.stored
    world.stored = { ...merrowby(12), version: 9 }
    await world.change(() => {})
    expect(world.keeper.current).toEqual(newest)
  })
})
