import { createHash, randomInt } from 'node:crypto'
import type { EntityManager, MikroORM } from '@mikro-orm/postgresql'
import { type TelephoneAccount, telephoneRealm } from '~~/shared/telephone-accounts'
import type { TelephoneAccountsKept, TelephoneSecret } from '~~/shared/telephones'
import { briefly } from '../database/away'
import { TelephoneAccountEntity } from '../database/entities'
import type { Notices } from '../database/notices'

const channel = 'telephone_accounts'
/** Letters and digits that nobody takes for each other when they type them into a telephone. */
const letters = 'abcdefghjkmnpqrstuvwxyz23456789'
const secretLength = 16

interface Asks {
  /** How many messages nobody has heard, by mailbox. */
  unheard: () => Promise<ReadonlyMap<string, number>>
  /** Says to the exchange which telephones may register. */
  tell: (accounts: TelephoneAccount[]) => void
  log: (text: string) => void
}

/** Keeps the accounts of telephones of the network, and has the exchange know them. Several servers may do it at once. */
export class TelephoneAccounts {
  private busy = false
  private again = false

  /** @param address where telephones register, as `address:port`; empty: this house serves none */
  constructor(private readonly orm: MikroORM, notices: Notices, readonly address: string, private readonly asks: Asks) {
    if (address === '') return
    notices.on(channel, () => this.changed())
    notices.onListening(() => this.changed())
  }

  /** Something is different: an account, or what waits in a mailbox. */
  changed(): void {
    if (this.address !== '') void this.look()
  }

  async list(): Promise<TelephoneAccountsKept> {
    const rows = await this.orm.em.fork().find(TelephoneAccountEntity, {}, { orderBy: { name: 'asc' } })
    return {
      address: this.address || null,
      telephones: rows.map(({ telephone, name, by, at }) => ({ device: telephone, name, by, at: at.getTime() })),
    }
  }

  /** Gives a telephone an account, or the account that it has a new secret: the old one is good for nothing from now on. */
  give({ id, number }: { id: string, number: string }, by: string, at: Date): Promise<TelephoneSecret> {
    const secret = Array.from({ length: secretLength }, () => letters[randomInt(letters.length)]).join('')
    return this.orm.em.fork().transactional(async (tx) => {
      const known = await tx.findOne(TelephoneAccountEntity, { telephone: id })
      const name = known?.name ?? await freeName(tx, number)
      const hash = (algorithm: string) => createHash(algorithm).update(`${name}:${telephoneRealm}:${secret}`).digest('hex')
      await tx.upsert(TelephoneAccountEntity, { telephone: id, name, md5: hash('md5'), sha256: hash('sha256'), by, at })
      await tellOfAccounts(tx)
      return { address: this.address, name, secret }
    })
  }

  /** False when it has none. */
  take(telephone: string): Promise<boolean> {
    return this.orm.em.fork().transactional(async (tx) => {
      const taken = await tx.nativeDelete(TelephoneAccountEntity, { telephone })
      if (taken > 0) await tellOfAccounts(tx)
      return taken > 0
    })
  }

  private async look(): Promise<void> {
    this.again = true
    if (this.busy) return
    this.busy = true
    try {
      while (this.again) {
        this.again = false
        const [rows, unheard] = await Promise.all([this.orm.em.fork().find(TelephoneAccountEntity, {}), this.asks.unheard()])
        this.asks.tell(rows.map(({ telephone, name, md5, sha256 }) => ({ device: telephone, name, md5, sha256, unheard: unheard.get(telephone) ?? 0 })))
      }
    }
    catch (error) {
      // As soon as the database is back, everything is read again.
      this.asks.log(`telephones: their accounts can't be read at the moment: ${briefly(error)}`)
    }
    finally {
      this.busy = false
    }
  }
}

/** Its number, as it is now: whoever gets another number later keeps the name of their account. */
async function freeName(tx: EntityManager, number: string): Promise<string> {
  const like = await tx.find(TelephoneAccountEntity, { name: { $like: `${number}%` } }, { fields: ['name'] })
  const taken = new Set(like.map(({ name }) => name))
  let name = number
  for (let next = 2; taken.has(name); next++) name = `${number}-${next}`
  return name
}

/** Also when telephones are no more: they take their accounts with them. */
export async function tellOfAccounts(tx: EntityManager): Promise<void> {
  await tx.execute(`select pg_notify('${channel}', '')`)
}
