import { collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client'
import { queueOf } from '~~/core/calls/questions'
import { waitingIn } from '~~/core/queues/turns'
import { whoWaits } from '~~/core/console/watch'
import type { Relay } from '../relay'

/**
 * What is measured of a server, in the format of Prometheus (version 0.0.4): calls and waits, what the journal has still to write, how late browsers hear, the
 * pool, memory and processor. No name and no number of anybody.
 */
export class Metrics {
  private readonly registry = new Registry()
  /** From an event at the exchange until it has gone out to the browsers here, seconds. */
  private readonly heard = new Histogram({
    name: 'estafette_feed_delay_seconds', help: 'From an event at the exchange until it has gone out to the browsers of this server',
    buckets: [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5], registers: [this.registry],
  })

  constructor(private readonly relay: () => Relay | null) {
    collectDefaultMetrics({ register: this.registry, prefix: 'estafette_' })
    const gauge = (name: string, help: string, value: (relay: Relay) => number | null) => new Gauge({
      name: `estafette_${name}`, help, registers: [this.registry],
      collect() {
        const running = relay()
        const now = running && value(running)
        if (now === null) this.reset()
        else this.set(now)
      },
    })
    gauge('up', 'The server has its database and its exchange', ({ journal, link }) => Number(journal.healthy && (link?.up ?? false)))
    gauge('exchange_up', 'The exchange speaks to this server', ({ link }) => Number(link?.up ?? false))
    gauge('calls', 'Calls that live', ({ replica }) => replica.state?.calls.size ?? null)
    gauge('callers_waiting', 'Callers whom nobody talks with: ringing, queued, on hold, parked', ({ replica }) =>
      replica.state ? whoWaits(replica.state, replica.now).length : null)
    gauge('longest_wait_seconds', 'The longest of them has waited so long', ({ replica }) => {
      const { state, now } = replica
      return state ? Math.max(0, ...whoWaits(state, now).map(({ since }) => now - since)) / 1_000 : null
    })
    gauge('operators_attended', 'Operators at a console, on all servers', ({ replica }) =>
      replica.state ? [...replica.state.agents.values()].filter(({ attended }) => attended).length : null)
    gauge('feed_listeners', 'Browsers that hear this server', ({ hub }) => hub.listening)
    gauge('journal_behind_events', 'Events in memory that the journal has not written', ({ journal }) => journal.behind)
    gauge('journal_spilled_bytes', 'What lies in a file for want of memory', ({ journal }) => journal.spilledBytes)
    gauge('journal_losing', 'What happens finds room neither in memory nor on the disk: the exchange is asked again', ({ journal }) => Number(journal.losing))
    gauge('journal_delay_seconds', 'How old the oldest event is that the journal has not written', ({ journal, replica }) =>
      journal.oldest === null ? 0 : Math.max(0, replica.now - journal.oldest) / 1_000)
    gauge('database_connections_used', 'Connections of the pool that somebody uses', relay => poolOf(relay)?.numUsed() ?? null)
    gauge('database_connections_waited_for', 'Those who wait for a connection of the pool', relay => poolOf(relay)?.numPendingAcquires() ?? null)
    this.byQueue('queue_waiting', 'Callers who wait in a queue', waits => waits.length)
    this.byQueue('queue_longest_wait_seconds', 'How long the longest has waited in it', waits => Math.max(0, ...waits) / 1_000)
  }

  /** @param value of how long each of those has waited who wait in it, milliseconds */
  private byQueue(name: string, help: string, value: (waits: number[]) => number): void {
    const { relay } = this
    new Gauge({
      name: `estafette_${name}`, help, labelNames: ['queue'], registers: [this.registry],
      collect() {
        this.reset()
        const { state, now } = relay()?.replica ?? { state: null, now: 0 }
        for (const { id, distribution } of Object.values(state?.company.groups ?? {})) {
          if (distribution === 'queue') this.set({ queue: id }, value(waitingIn(state!, id).map(call => now - queueOf(call)!.since)))
        }
      },
    })
  }

  /** Browsers have just heard of what happened so long ago, milliseconds. */
  told(delay: number): void {
    this.heard.observe(Math.max(0, delay) / 1_000)
  }

  get type(): string {
    return this.registry.contentType
  }

  text(): Promise<string> {
    return this.registry.metrics()
  }
}

interface Pool { numUsed(): number, numPendingAcquires(): number }

function poolOf({ orm }: Relay): Pool | undefined {
  return (orm.em.getConnection() as unknown as { getKnex(): { client: { pool?: Pool } } }).getKnex().client.pool
}
