import { spoken } from '~~/words/phrase'
import { t } from '../language'
import { changesBetween } from '~~/core/company/changes'
import { faultsOf } from '~~/core/company/check'
import type { Company } from '~~/core/company/company'
import { briefly } from '../database/away'
import type { Notices } from '../database/notices'
import type { ExchangeLink } from '../exchange-link/link'

const channel = 'company'
/** Milliseconds until what could not be read is tried again. */
const pause = 1_000

/**
 * Keeps the company as the database says, in memory: calls go on while the database is away. Tells the exchange of every change.
 * Several servers may tell the same: the exchange takes each version over once.
 */
export class CompanyKeeper {
  private telling = false
  private reading = false
  private changed = false
  private closed = false
  private refused = 0

  private constructor(
    private readonly read: () => Promise<Company>,
    private company: Company,
    private readonly log: (text: string) => void,
  ) {}

  /** @param read gives the company as the database has it; @param onChange is called when it has become another */
  static async load(
    read: () => Promise<Company>,
    notices: Pick<Notices, 'on' | 'onListening'>,
    onChange: () => void,
    log: (text: string) => void,
  ): Promise<CompanyKeeper> {
    const keeper = new CompanyKeeper(read, await read(), log)
    const follow = () => void keeper.follow(onChange)
    notices.on(channel, follow)
    notices.onListening(follow)
    return keeper
  }

  close(): void {
    this.closed = true
  }

  /** Reads what has changed, however many changes come at once, until it has been read. */
  private async follow(onChange: () => void): Promise<void> {
    this.changed = true
    if (this.reading) return
    this.reading = true
    while (this.changed && !this.closed) {
      this.changed = false
      try {
        if (await this.reload()) onChange()
      }
      catch (error) {
        this.log(`company: a change can't be read yet: ${briefly(error)}`)
        this.changed = true
        await new Promise(resolve => setTimeout(resolve, pause))
      }
    }
    this.reading = false
  }

  get current(): Company {
    return this.company
  }

  private async reload(): Promise<boolean> {
    const read = await this.read()
    // A restored database may be older than what we know; it is brought past it by the command that migrates.
    if (read.version <= this.company.version) return false
    this.company = read
    return true
  }

  /**
   * Tells the exchange what it does not know yet.
   * @param known the company as the exchange has it now
   */
  async tell(link: Pick<ExchangeLink, 'up' | 'configure'>, known: () => Company | undefined): Promise<void> {
    if (this.telling) return
    this.telling = true
    try {
      for (let has = known(); link.up && has && has.version < this.company.version && this.refused !== this.company.version; has = known()) {
        const { version } = this.company
        const [fault] = faultsOf(this.company)
        const refusal = fault ?? (await link.configure(has.version, version, changesBetween(has, this.company))).refusal?.why
        if (!refusal) continue
        // Another server was first: its changes have come as an event, and we go on from there.
        if (known()?.version !== has.version) continue
        this.refused = version
        this.log(`company: version ${version} was not taken over: ${spoken(t, refusal)}`)
        return
      }
    }
    catch (error) {
      this.log(`company: the exchange is not told yet: ${(error as Error).message}`)
    }
    finally {
      this.telling = false
    }
  }
}
