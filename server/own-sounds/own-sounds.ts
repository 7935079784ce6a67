import { randomUUID } from 'node:crypto'
import type { EntityManager, MikroORM } from '@mikro-orm/postgresql'
import { greetingOccasions } from '~~/core/calls/model'
import { sampleRate } from '~~/core/sound/frames'
import { greetingPlace, linePlace } from '~~/core/sound/own-sounds'
import type { SoundAtPlace, SoundKept } from '~~/shared/own-sounds'
import { briefly } from '../database/away'
import { OwnSoundEntity } from '../database/entities'
import type { Notices } from '../database/notices'
import type { SoundPort } from '../sound-link/sound-process'

const channel = 'own_sounds'
/** Milliseconds between two looks whether the sound process has them all: it may have begun anew. */
const every = 1_000

/** Keeps the sounds that somebody has brought, and has the sound process play them. Several servers may do it at once. */
export class OwnSounds {
  private readonly looking: NodeJS.Timeout
  private there: SoundAtPlace[] = []
  /** Somebody has brought or taken away one since they were read. */
  private changed = true
  private busy = false
  private failing = false

  constructor(private readonly orm: MikroORM, notices: Notices, private readonly sound: SoundPort, private readonly log: (text: string) => void) {
    const changed = () => {
      this.changed = true
    }
    notices.on(channel, changed)
    notices.onListening(changed)
    this.looking = setInterval(() => void this.look(), every)
  }

  close(): void {
    clearInterval(this.looking)
  }

  /** Gives the sound process whatever it does not have. */
  async look(): Promise<void> {
    if (this.busy) return
    this.busy = true
    try {
      const em = this.orm.em.fork()
      if (this.changed) await this.read(em)
      for (const { place, version } of await this.sound.wants(this.there) ?? []) {
        const wanted = await em.findOne(OwnSoundEntity, { place, version }, { populate: ['sound'] })
        if (wanted) await this.sound.give({ place, version, sound: wanted.sound.unwrap() as Buffer })
      }
      this.failing = false
    }
    catch (error) {
      if (!this.failing) this.log(`own sounds: the sound process can't be given them at the moment: ${briefly(error)}`)
      this.failing = true
    }
    finally {
      this.busy = false
    }
  }

  private async read(em: EntityManager): Promise<void> {
    // What changes while they are read is read the next time.
    this.changed = false
    try {
      const rows = await em.find(OwnSoundEntity, {}, { fields: ['place', 'version'] })
      this.there = rows.map(({ place, version }) => ({ place, version }))
    }
    catch (error) {
      this.changed = true
      throw error
    }
  }

  /** @param sound G.711 (µ-law); @param name of the file it was made from; @param by the sign-in of whoever brings it */
  async keep(place: string, sound: Uint8Array, name: string, by: string, at: Date): Promise<void> {
    await this.orm.em.fork().transactional(async (tx) => {
      await tx.upsert(OwnSoundEntity, { place, version: randomUUID(), sound: Buffer.from(sound), name, by, at })
      await tell(tx)
    })
  }

  /** False when there is none. */
  remove(place: string): Promise<boolean> {
    return this.orm.em.fork().transactional(async (tx) => {
      const removed = await tx.nativeDelete(OwnSoundEntity, { place })
      if (removed > 0) await tell(tx)
      return removed > 0
    })
  }

  /** Those at places that somebody may keep. */
  async list(may: (place: string) => boolean): Promise<SoundKept[]> {
    const rows = await this.orm.em.fork().execute<SoundKept[]>(listed, [sampleRate])
    return rows.filter(({ place }) => may(place))
  }

  /** G.711 (µ-law), or null when there is none at that place. */
  async soundAt(place: string): Promise<Buffer | null> {
    const row = await this.orm.em.fork().findOne(OwnSoundEntity, { place }, { populate: ['sound'] })
    return row && row.sound.unwrap() as Buffer
  }
}

/** What stood for lines, groups and telephones that are no more, or for whoever had a telephone before, goes with them. */
export async function forgetSoundsOf(tx: EntityManager, owners: readonly string[]): Promise<void> {
  const places = owners.flatMap(owner => [linePlace(owner), ...greetingOccasions.map(when => greetingPlace(owner, when))])
  if (await tx.nativeDelete(OwnSoundEntity, { place: { $in: places } }) > 0) await tell(tx)
}

const listed = `
  select s.place, octet_length(s.sound)::float8 / ? as seconds, s.name, coalesce(a.name, s.by) as by,
    floor(extract(epoch from s.at) * 1000)::float8 as at, s.version
  from own_sound s left join account a on a.sign_in = s.by order by s.place`

const tell = (tx: EntityManager) => tx.execute(`select pg_notify('${channel}', '')`)
