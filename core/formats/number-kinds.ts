import { phrase, type Phrase } from '../../words/phrase'

/** What a number of somebody outside is for. */
export const numberKinds = ['work', 'mobile', 'home', 'other'] as const
export type NumberKind = typeof numberKinds[number]
export const kindNames: Record<NumberKind, Phrase> = {
  work: phrase('common.kindWork'), mobile: phrase('common.kindMobile'), home: phrase('common.kindHome'), other: phrase('common.kindOther'),
}
