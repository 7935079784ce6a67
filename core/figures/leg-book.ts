import type { Leg, LegChange } from './legs'

/** What the database makes of changes of legs (`server/journal/projections/legs.ts`), kept in memory: for the tests. */
export class LegBook {
  private readonly kept: (Leg & { seq: number, began: number })[] = []

  get legs(): readonly Leg[] {
    return this.kept
  }

  /**
   * @param seq of the event; @param offset of the clock that people read
   */
  add(changes: readonly LegChange[], seq: number, offset = 0): void {
    for (const change of changes) this.apply(change, seq, offset)
  }

  private apply(change: LegChange, seq: number, offset: number): void {
    switch (change.kind) {
      case 'legBegun': {
        const { kind: _kind, unlessOpen: _guarded, at, ...leg } = change
        const joined = leg.of === 'joined'
        this.kept.push({
          ...leg, seq, began: at, at: at + offset, end: joined ? 'answered' : 'waiting', cause: null,
          waited: joined ? 0 : null, talked: null, held: 0, next: null,
        })
        return
      }
      case 'legWaited': {
        const leg = this.kept.findLast(({ call, of, place, seq: begun }) => call === change.call && of === change.of && place === change.place && begun <= seq)
        if (leg && leg.end !== 'answered')
          Object.assign(leg, { end: change.end, cause: change.cause, by: change.by ?? leg.by, waited: change.at - leg.began, next: change.next })
        return
      }
      case 'legTalked': {
        const leg = this.kept.findLast(({ call, by, of, seq: begun }) => call === change.call && by === change.by && of !== 'line' && begun < seq)
        if (leg?.end === 'answered') Object.assign(leg, { talked: change.at - leg.began - leg.waited!, held: change.held, next: change.next ?? leg.next })
        return
      }
      case 'legsOver':
        for (const leg of this.kept.filter(({ call }) => call === change.call)) {
          if (leg.end === 'waiting') Object.assign(leg, { end: change.end, cause: change.cause, waited: change.at - leg.began })
          else if (leg.end === 'answered') leg.talked ??= change.at - leg.began - leg.waited!
        }
    }
  }
}
