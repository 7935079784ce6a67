import { upkeep } from '~~/shared/people'
import { fromDatabase } from '../database/away'
import { SetAside } from '../database/entities'
import { defineEndpoint } from '../endpoints/define'
import { useRelay } from '../relay'

const shown = 100

interface Gap { epoch: string, after: number, before: number | null, at: Date }

export default defineEndpoint({
  summary: 'How database, exchange, sound and journal are, and what the database would not keep',
  dear: true,
  mayAsk: { right: 'runCompany' },
  answer: upkeep,
}, async () => {
  const { orm, journal, link, hasSound, sound } = useRelay()
  const rows = await fromDatabase(() => orm.em.fork().find(SetAside, {}, { orderBy: { at: 'desc' }, limit: shown }))
  const gaps = await fromDatabase(() => orm.em.fork().execute<Gap[]>('select epoch, after, before, at from journal_gap order by at desc limit ?', [shown]))
  return {
    database: journal.healthy,
    exchange: link?.up ?? false,
    sound: { here: hasSound, process: await sound.health() },
    journal: {
      behind: journal.behind, spilledBytes: journal.spilledBytes, losing: journal.losing, gaps: gaps.map(gap => ({ ...gap, at: new Date(gap.at).getTime() })),
    },
    setAside: rows.map(({ epoch, seq, at, reason, item }) => ({ epoch, seq, at: at.getTime(), reason, item })),
  }
})
