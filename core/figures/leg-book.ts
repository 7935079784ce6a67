import type { Leg, LegChange } from './legs'

type Kept = Leg & { seq: number, began: number }

/** What the database makes of changes of legs (`server/journal/projections/legs.ts`), kept in memory: for the tests. */
export class LegBook {
  private readonly calls = new Map<string, Kept[]>()

  get legs(): readonly Leg[] {
    return [...this.calls.values()].flat().sort((a, b) => a.seq - b.seq)
  }

  /**
   * @param seq of the event; @param offset of the clock that people read
   */
  add(changes: readonly LegChange[], seq: number, offset = 0): void {
    for (const change of changes) {
      const legs = this.calls.get(change.call) ?? []
      this.calls.set(change.call, legs)
      apply(legs, change, seq, offset)
    }
  }
}

function apply(legs: Kept[], change: LegChange, seq: number, offset: number): void {
  switch (change.kind) {
    case 'legBegun': {
      const { kind: _kind, unlessOpen: _guarded, at, ...leg } = change
      const joined = leg.of === 'joined'
      const none = { cause: null, talked: null, held: 0, next: null }
      legs.push({ ...leg, ...none, seq, began: at, at: at + offset, end: joined ? 'answered' : 'waiting', waited: joined ? 0 : null })
      return
    }
    case 'legWaited': {
      const leg = legs.findLast(({ of, place, seq: begun }) => of === change.of && place === change.place && begun <= seq)
      if (leg && leg.end !== 'answered')
        Object.assign(leg, { end: change.end, cause: change.cause, by: change.by ?? leg.by, waited: change.at - leg.began, next: change.next })
      return
    }
    case 'legTalked': {
      const leg = legs.findLast(({ by, of, seq: begun }) => by === change.by && of !== 'line' && begun < seq)
      if (leg?.end === 'answered') Object.assign(leg, { talked: change.at - leg.began - leg.waited!, held: change.held, next: change.next ?? leg.next })
      return
    }
    case 'legsOver':
      for (const leg of legs) {
        if (leg.end === 'waiting') Object.assign(leg, { end: change.end, cause: change.cause, waited: change.at - leg.began })
        else if (leg.end === 'answered') leg.talked ??= change.at - leg.began - leg.waited!
      }
  }
}
